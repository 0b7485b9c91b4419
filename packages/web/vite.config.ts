import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { byteBudgets } from './build/budgets.ts';
import { compressedBeside } from './build/compressed.ts';
import { thirdPartyNotices } from './build/notices.ts';

/** Kilobytes, compressed, that a page may need before it is shown. */
const budgets = {
  entry: 165,
  'bench/BenchPage.tsx': 420,
  'builder/BuilderPage.tsx': 510,
  'classSheet/ClassSheetPage.tsx': 400,
  'lectern/LecternPage.tsx': 430,
};

export default defineConfig({
  plugins: [react(), tailwind(), byteBudgets(budgets), compressedBeside(), thirdPartyNotices()],
  // The content policy allows files from this server only, so nothing is inlined as a data address.
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': 'http://127.0.0.1:4180' } },
});
