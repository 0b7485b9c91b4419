import type { Plugin, Rolldown } from 'vite';
import { brotli } from './compressed.ts';

type Chunk = Rolldown.OutputChunk;

/**
 * Fails the build when a page grows beyond its budget: kilobytes of script and style, compressed, that must arrive before
 * it can be shown. `pages` names the module of each page; the first one is the entry, which every page needs.
 */
export function byteBudgets(pages: Readonly<Record<string, number>>): Plugin {
  return {
    name: 'byte-budgets',
    apply: 'build',
    generateBundle(_, bundle) {
      const chunks = Object.values(bundle).filter((file): file is Chunk => file.type === 'chunk');
      const sizes = new Map(chunks.map((chunk) => [chunk.fileName, brotli(chunk.code).length]));
      const entry = chunks.find(({ isEntry }) => isEntry)!;
      const styleSize = (name: string): number => {
        const file = bundle[name];
        return file?.type === 'asset' ? brotli(Buffer.from(file.source)).length : 0;
      };
      const needed = (chunk: Chunk, known = new Set<Chunk>()): Set<Chunk> => {
        if (known.has(chunk)) return known;
        known.add(chunk);
        for (const name of chunk.imports) {
          const other = chunks.find(({ fileName }) => fileName === name);
          if (other) needed(other, known);
        }
        return known;
      };
      const over = Object.entries(pages).flatMap(([page, budget]) => {
        const own = page === 'entry' ? entry : chunks.find(({ facadeModuleId }) => facadeModuleId?.endsWith(page));
        if (!own) return [`${page} is no page of the build.`];
        const all = needed(entry);
        needed(own, all);
        const styles = new Set([...all].flatMap(({ viteMetadata }) => [...(viteMetadata?.importedCss ?? [])]));
        const bytes =
          [...all].reduce((sum, { fileName }) => sum + sizes.get(fileName)!, 0) +
          [...styles].reduce((sum, name) => sum + styleSize(name), 0);
        const size = Math.ceil(bytes / 1000);
        if (process.env['NAILSET_SHOW_BUDGETS']) console.log(`${page}: ${size} of ${budget} kB`);
        return size > budget ? [`${page} needs ${size} kB before it can be shown; its budget is ${budget} kB.`] : [];
      });
      if (over.length > 0) this.error(over.join('\n'));
    },
  };
}
