import { readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';

/**
 * Writes what the compiler says of core and web with the files that it is given (names under `packages/`, and their
 * texts, as JSON) in the place of, or beside, those on the disk.
 */
const at = (/** @type {string} */ name) => path.resolve(import.meta.dirname, '../..', name);

/** @param {Readonly<Record<string, string>>} files */
function complaints(files) {
  const own = new Map(Object.entries(files).map(([name, text]) => [at(name), text]));
  const { config } = ts.readConfigFile(at('web/tsconfig.json'), (name) => ts.sys.readFile(name));
  const { options, fileNames } = ts.parseJsonConfigFileContent(config, ts.sys, at('web'));
  const core = ['index', 'checks', 'diagrams', 'workings'];
  /** @type {ts.CompilerOptions} */
  const all = {
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
  /** @type {ts.CompilerHost} */
  const host = {
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

process.stdout.write(JSON.stringify(complaints(JSON.parse(readFileSync(0, 'utf8')))));
