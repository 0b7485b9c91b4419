import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compressedBeside } from './build/compressed.ts';
import { thirdPartyNotices } from './build/notices.ts';
import { type Page, pageFiles } from './build/pages.ts';

/** Kilobytes, compressed, of the start page, which every view needs. */
const start = 130;

const pages: readonly Page[] = [
  { address: '^/exercises/[^/]+$', module: 'bench/BenchPage.tsx', budget: 352 },
  { address: '^/open$', module: 'open/OpenPage.tsx', budget: 330 },
  { address: '^/exercises/[^/]+/build$', module: 'builder/BuilderPage.tsx', budget: 430 },
  { address: '^/exercises/[^/]+/class$', module: 'classSheet/ClassSheetPage.tsx', budget: 364 },
  { address: '^/exercises/[^/]+/lectern$', module: 'lectern/LecternPage.tsx', budget: 390 },
];

export default defineConfig({
  plugins: [react(), tailwind(), pageFiles(start, pages), compressedBeside(), thirdPartyNotices()],
  build: {
    // The content policy allows files from this server only, so nothing is inlined as a data address.
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      // Schemas that the browser does not check are left out.
      treeshake: { manualPureFunctions: ['Type'] },
      output: {
        // What several views share comes in few files: on a slow line each file costs a round trip.
        codeSplitting: {
          groups: [
            { name: 'first', tags: ['$initial'], priority: 3 },
            // What only some views need must not be put beside what all of them do.
            {
              name: 'markdown',
              test: /node_modules\/(micromark|mdast|unified|hast|unist|vfile|remark|react-markdown|property-information)/,
              priority: 2,
            },
            { name: 'lists', test: /@tanstack\/(react-)?virtual|src\/shared\/LongTable|src\/api\/course/, priority: 2 },
            { name: 'shared', minShareCount: 2, entriesAware: true, entriesAwareMergeThreshold: 3_000 },
          ],
        },
        chunkFileNames: ({ name }) => `assets/${name.startsWith('shared') ? 'shared' : name}-[hash].js`,
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4180' } },
});
