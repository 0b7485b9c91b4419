import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

const at = (name: string): string => path.resolve(__dirname, '../..', name);

/** Two folders for a kind that does nothing, as far as someone has written them who knows only where they go. */
const begun = {
  'core/src/kinds/nothing/part.ts': `
    import Type, { type Static } from 'typebox';
    import { closed } from '../../exercise/given.js';
    import { heading, points } from '../../exercise/heading.js';
    import { seenHeading } from '../../exercise/seen.js';
    const kind = Type.Literal('nothing');
    export const NothingPart = Type.Object({ ...heading, kind, points }, closed);
    export type NothingPart = Static<typeof NothingPart>;
    export const NothingAnswer = Type.Object({ kind }, closed);
    export const SeenNothing = Type.Object({ ...seenHeading, kind }, closed);`,
  'core/src/kinds/nothing/nothing.ts': `
    import { type AnswerKind, defaults } from '../kind.js';
    export const nothing: AnswerKind<'nothing'> = { ...defaults };`,
  'web/src/kinds/nothing/student.tsx': `
    import type { StudentKind } from '../kind';
    export const nothing: StudentKind<'nothing'> = {};`,
  'web/src/kinds/nothing/author.ts': `
    import type { AuthorKind } from '../kind';
    export const nothing: AuthorKind<'nothing'> = {};`,
};

/** The one line that makes it a kind: its schemas among those of an exercise. */
const parts = 'core/src/exercise/parts.ts';
const listed = (text: string): string =>
  `import { NothingAnswer, NothingPart, SeenNothing } from '../kinds/nothing/part.js';\n${text.replace(
    'export const kindSchemas = {',
    'export const kindSchemas = {\n  nothing: { part: NothingPart, answer: NothingAnswer, seen: SeenNothing },',
  )}`;

/** What the compiler says of core and web with these files in the place of, or beside, those that are there. */
function complaints(files: Readonly<Record<string, string>>): string[] {
  const copy = mkdtempSync(path.join(tmpdir(), 'nailset-kind-'));
  try {
    for (const place of ['core/src', 'web/src', 'core/package.json', 'web/package.json'])
      cpSync(at(place), path.join(copy, 'packages', place), { recursive: true });
    symlinkSync(at('../node_modules'), path.join(copy, 'node_modules'));
    for (const [name, text] of Object.entries(files)) {
      mkdirSync(path.dirname(path.join(copy, 'packages', name)), { recursive: true });
      writeFileSync(path.join(copy, 'packages', name), text);
    }
    const doors = ['index', 'checks', 'diagrams', 'workings'];
    const paths = doors.map((door) => [
      `@nailset/core${door === 'index' ? '' : `/${door}`}`,
      [path.join(copy, `packages/core/src/${door}.ts`)],
    ]);
    const config = {
      extends: at('web/tsconfig.json'),
      include: ['packages/*/src'],
      references: [],
      compilerOptions: {
        ...{ noEmit: true, emitDeclarationOnly: false, composite: false, incremental: false, noUnusedLocals: false },
        ...{ rootDir: copy, tsBuildInfoFile: null, paths: Object.fromEntries(paths) as object },
      },
    };
    writeFileSync(path.join(copy, 'tsconfig.json'), JSON.stringify(config));
    const compiler = at('../node_modules/typescript-7/bin/tsc');
    const { stdout } = spawnSync(process.execPath, [compiler, '--pretty', 'false'], { cwd: copy, encoding: 'utf8' });
    return stdout
      .split('\n')
      .filter((line) => line.startsWith('packages/'))
      .map((line) => line.replace(/^packages\/(.*?)\(\d+,\d+\): error TS\d+: /, '$1: '));
  } finally {
    rmSync(copy, { recursive: true });
  }
}

test('whoever begins a new kind of answer is told everything that it lacks, and nothing else', () => {
  const found = complaints({ ...begun, [parts]: listed(readFileSync(at(parts), 'utf8')) });
  // The places that list kinds.
  const lists = [
    'core/src/kinds/index.ts',
    'core/src/kinds/workings.ts',
    'web/src/kinds/authors.ts',
    'web/src/kinds/papers.ts',
    'web/src/kinds/students.ts',
  ];
  const members = Object.keys(begun).filter((name) => !name.endsWith('/part.ts'));
  expect([...new Set(found.map((line) => line.split(':')[0]))].sort()).toEqual([...lists, ...members].sort());
  for (const list of lists) {
    expect(found.filter((line) => line.startsWith(list))).toEqual([
      expect.stringContaining("Property 'nothing' is missing"),
    ]);
  }
  const lacking = members.map((name) =>
    /missing the following properties from type '\w+<"nothing">': (.*)\.$/
      .exec(found.find((line) => line.startsWith(name))!)?.[1]
      ?.split(', ')
      .slice(0, 4),
  );
  expect(lacking).toEqual([
    ['toText', 'seen', 'right', 'trials'],
    ['Bench', 'Shown', 'blank', 'readable'],
    ['name', 'id', 'Editor', 'fresh'],
  ]);
});
