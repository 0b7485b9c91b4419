import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compressedBeside } from './build/compressed.ts';
import { runFirst } from './build/first.ts';
import { thirdPartyNotices } from './build/notices.ts';
import { type Page, pageFiles } from './build/pages.ts';

/** Kilobytes, compressed, of the start page, which every view needs. */
const start = 130;

const pages: readonly Page[] = [
  { address: '^/exercises/[^/]+$', module: 'bench/BenchPage.tsx', budget: 338 },
  { address: '^/open$', module: 'open/OpenPage.tsx', budget: 299 },
  { address: '^/exercises/[^/]+/build$', module: 'builder/BuilderPage.tsx', budget: 399 },
  { address: '^/exercises/[^/]+/class$', module: 'classSheet/ClassSheetPage.tsx', budget: 343 },
  { address: '^/exercises/[^/]+/lectern$', module: 'lectern/LecternPage.tsx', budget: 358 },
];

export default defineConfig({
  plugins: [
    react(),
    tailwind(),
    runFirst('src/begin.ts'),
    pageFiles(start, pages),
    compressedBeside(),
    thirdPartyNotices(),
  ],
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
            { name: 'first', tags: ['$initial'], priority: 4 },
            // What only some views need must not be put beside what all of them do.
            {
              name: 'markdown',
              test: /node_modules\/(micromark|mdast|unified|hast|unist|vfile|remark|react-markdown|property-information)/,
              priority: 3,
            },
            { name: 'lists', test: /@tanstack\/(react-)?virtual|src\/shared\/LongTable|src\/api\/course/, priority: 3 },
            // What nearly every view needs.
            { name: 'core', test: /packages\/core/, minShareCount: 8, priority: 2 },
            { name: 'parts', test: /src\/(shared|page|api)\/|@radix-ui|@floating-ui/, minShareCount: 6, priority: 1 },
            { name: 'plots', test: /src\/(plot|loop|work)\//, minShareCount: 8, priority: 1 },
            { name: 'benches', test: /src\/(bench|kinds|statement|api)\//, minShareCount: 5, priority: 0.5 },
            { name: 'shared', minShareCount: 2, entriesAware: true, entriesAwareMergeThreshold: 1_000 },
          ],
        },
        chunkFileNames: ({ name }) => `assets/${name.startsWith('shared') ? 'shared' : name}-[hash].js`,
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4180' } },
});
