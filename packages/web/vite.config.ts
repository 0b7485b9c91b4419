import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { type Plugin, defineConfig } from 'vite';

/** Writes every text among the built files a second and third time, as Brotli and gzip, so that nothing is compressed while it is served. */
function compressedBeside(): Plugin {
  return {
    name: 'compressed-beside',
    apply: 'build',
    writeBundle({ dir }) {
      const folder = path.join(dir!, 'assets');
      for (const name of readdirSync(folder)) {
        if (!/\.(js|css|svg)$/.test(name)) continue;
        const file = path.join(folder, name);
        const bytes = readFileSync(file);
        const params = { [constants.BROTLI_PARAM_QUALITY]: 10 };
        writeFileSync(`${file}.br`, brotliCompressSync(bytes, { params }));
        writeFileSync(`${file}.gz`, gzipSync(bytes, { level: 9 }));
      }
    },
  };
}

export default defineConfig({
  plugins: [react(), tailwind(), compressedBeside()],
  // The content policy allows files from this server only, so nothing is inlined as a data address.
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': 'http://127.0.0.1:4180' } },
});
