import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { minify, type Plugin, transformWithOxc } from 'vite';

/** Runs a module that imports nothing in a file of its own, before the page's script has come. */
export function runFirst(module: string): Plugin {
  let fileName = '';
  return {
    name: 'run-first',
    apply: 'build',
    async buildStart() {
      const { code } = await transformWithOxc(readFileSync(module, 'utf8'), module);
      const source = (await minify(module, code, { module: true })).code;
      fileName = `assets/begin-${createHash('sha256').update(source).digest('hex').slice(0, 8)}.js`;
      this.emitFile({ type: 'asset', fileName, source });
    },
    transformIndexHtml: () => [
      { tag: 'script', attrs: { type: 'module', crossorigin: true, src: `/${fileName}` }, injectTo: 'head-prepend' },
    ],
  };
}
