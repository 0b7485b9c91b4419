import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Plugin } from 'vite';

interface Package {
  readonly name: string;
  readonly version: string;
  readonly license?: string;
  readonly dependencies?: Record<string, string>;
}

const read = (folder: string): Package =>
  JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8')) as Package;

/** Where a package finds another one: in its own node_modules or in one above. */
function found(name: string, from: string): string | undefined {
  const folder = path.join(from, 'node_modules', name);
  if (existsSync(path.join(folder, 'package.json'))) return folder;
  return from === path.dirname(from) ? undefined : found(name, path.dirname(from));
}

/** Folders of every package that a package needs, its own included, by name and version. */
function needed(folder: string, known = new Map<string, string>()): Map<string, string> {
  const { name, version, dependencies = {} } = read(folder);
  const key = `${name} ${version}`;
  if (known.has(key)) return known;
  known.set(key, folder);
  for (const dependency of Object.keys(dependencies)) {
    const at = found(dependency, folder);
    if (at) needed(at, known);
  }
  return known;
}

/** Its licence as it came; its name where it came without a text. */
function licenceOf(folder: string): string {
  const files = readdirSync(folder).filter((name) => /^(licen[cs]e|copying|notice)/i.test(name));
  const texts = files.map((name) => readFileSync(path.join(folder, name), 'utf8').trim());
  return texts.join('\n\n') || `Licence: ${read(folder).license ?? 'not stated'}`;
}

/** Writes notices.txt: the licences of everything that the interface is made of, fonts included. */
export function thirdPartyNotices(): Plugin {
  return {
    name: 'third-party-notices',
    apply: 'build',
    writeBundle({ dir }) {
      const packages = [...needed(path.resolve(import.meta.dirname, '..'))].filter(
        ([key]) => !key.startsWith('@nailset/'),
      );
      const parts = packages
        .sort(([a], [b]) => a.localeCompare(b))
        .map(([key, at]) => `${key}\n${'='.repeat(key.length)}\n\n${licenceOf(at)}\n`);
      const head = 'Nailset’s interface is made of these packages, each under its own licence.\n';
      writeFileSync(path.join(dir!, 'notices.txt'), [head, ...parts].join('\n\n'));
    },
  };
}
