import path from 'node:path';
import ts from 'typescript';

const root = path.resolve(__dirname, '../../..');
const at = (name: string): string => path.join(root, 'packages', name);

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

/** What the compiler says of core and web with these files in the place of, or beside, those on the disk. */
function complaints(files: Readonly<Record<string, string>>): string[] {
  const own = new Map(Object.entries(files).map(([name, text]) => [at(name), text]));
  const { config } = ts.readConfigFile(at('web/tsconfig.json'), (name) => ts.sys.readFile(name)) as { config: object };
  const { options, fileNames } = ts.parseJsonConfigFileContent(config, ts.sys, at('web'));
  const core = ['index', 'checks', 'diagrams', 'workings'];
  const all: ts.CompilerOptions = {
    ...options,
    ...{ noEmit: true, composite: false, incremental: false, noUnusedLocals: false, skipLibCheck: true },
    paths: Object.fromEntries(
      core.map((door) => [`@nailset/core${door === 'index' ? '' : `/${door}`}`, [at(`core/src/${door}.ts`)]]),
    ),
  };
  delete all.rootDir;
  delete all.tsBuildInfoFile;
  const plain = ts.createCompilerHost(all);
  const folders = new Set([...own.keys()].map((name) => path.dirname(name)));
  const host: ts.CompilerHost = {
    ...plain,
    readFile: (name) => own.get(path.resolve(name)) ?? plain.readFile(name),
    fileExists: (name) => own.has(path.resolve(name)) || plain.fileExists(name),
    directoryExists: (name) => folders.has(path.resolve(name)) || ts.sys.directoryExists(name),
    getSourceFile: (name, language, ...rest) => {
      const text = own.get(path.resolve(name));
      return text === undefined
        ? plain.getSourceFile(name, language, ...rest)
        : ts.createSourceFile(name, text, language);
    },
  };
  const program = ts.createProgram([...new Set([...fileNames, ...own.keys()])], all, host);
  return ts
    .getPreEmitDiagnostics(program)
    .map(
      ({ file, messageText }) =>
        `${path.relative(at(''), file?.fileName ?? '')}: ${ts.flattenDiagnosticMessageText(messageText, ' ')}`,
    );
}

test('whoever begins a new kind of answer is told everything that it lacks, and nothing else', () => {
  const found = complaints({ ...begun, [parts]: listed(ts.sys.readFile(at(parts))!) });
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
