import type { Plugin, Rolldown } from 'vite';
import { brotli } from './compressed.ts';

type Chunk = Rolldown.OutputChunk;

/** A view with its own address: what is asked for together with the start page when it is opened there. */
export interface Page {
  /** A regular expression of its addresses. */
  readonly address: string;
  /** The end of its module's name. */
  readonly module: string;
  /** Kilobytes of script and style, compressed, that may be needed before it is shown. */
  readonly budget: number;
}

/**
 * Lists in `pages.json` which files each page needs besides those of the start page, so that the server can name them
 * where they are wanted. Fails the build when a page grows beyond its budget.
 */
export function pageFiles(start: number, pages: readonly Page[]): Plugin {
  return {
    name: 'page-files',
    apply: 'build',
    generateBundle(_, bundle) {
      const chunks = Object.values(bundle).filter((file): file is Chunk => file.type === 'chunk');
      const sizeOf = (name: string): number => {
        const file = bundle[name]!;
        return brotli(file.type === 'asset' ? Buffer.from(file.source) : file.code).length;
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
      const filesOf = (own: ReadonlySet<Chunk>): string[] => {
        const styles = [...own].flatMap(({ viteMetadata }) => [...(viteMetadata?.importedCss ?? [])]);
        return [...new Set([...own].map(({ fileName }) => fileName).concat(styles))];
      };
      const troubles: string[] = [];
      const weigh = (page: string, files: readonly string[], budget: number): void => {
        const size = Math.ceil(files.reduce((sum, name) => sum + sizeOf(name), 0) / 1000);
        if (process.env['NAILSET_SHOW_BUDGETS']) console.log(`${page}: ${size} of ${budget} kB`);
        if (size > budget)
          troubles.push(`${page} needs ${size} kB before it can be shown; its budget is ${budget} kB.`);
      };
      const first = needed(chunks.find(({ isEntry }) => isEntry)!);
      weigh('The start page', filesOf(first), start);
      const listed = pages.flatMap(({ address, module, budget }) => {
        const own = chunks.find(({ facadeModuleId }) => facadeModuleId?.endsWith(module));
        if (!own) {
          troubles.push(`${module} is no page of the build.`);
          return [];
        }
        const all = filesOf(needed(own, new Set(first)));
        weigh(module, all, budget);
        const there = new Set(filesOf(first));
        return [{ address, files: all.filter((name) => !there.has(name)) }];
      });
      if (troubles.length > 0) this.error(troubles.join('\n'));
      this.emitFile({ type: 'asset', fileName: 'pages.json', source: JSON.stringify(listed) });
    },
  };
}
