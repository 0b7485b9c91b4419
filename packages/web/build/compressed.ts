import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import type { Plugin } from 'vite';

/** Writes every text among the built files a second and third time, as Brotli and gzip, so that nothing is compressed while it is served. */
export function compressedBeside(): Plugin {
  return {
    name: 'compressed-beside',
    apply: 'build',
    writeBundle({ dir }) {
      const folder = path.join(dir!, 'assets');
      for (const name of readdirSync(folder)) {
        if (!/\.(js|css|svg)$/.test(name)) continue;
        const file = path.join(folder, name);
        const bytes = readFileSync(file);
        writeFileSync(`${file}.br`, brotli(bytes));
        writeFileSync(`${file}.gz`, gzipSync(bytes, { level: 9 }));
      }
    },
  };
}

export const brotli = (bytes: Buffer | string): Buffer =>
  brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 10 } });
