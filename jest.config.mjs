const sources = [
  '@swc/jest',
  {
    // Beside the code and not at its end, where it is read with every module.
    sourceMaps: true,
    jsc: {
      target: 'es2022',
      parser: { syntax: 'typescript', tsx: true },
      transform: { react: { runtime: 'automatic' } },
    },
  },
];

/** Handed to every module as its own names: looked up in Jest's sandbox, they make numerics three times as slow. */
const globalsUsedOften = [
  'Array',
  'BigInt',
  'Boolean',
  'Float64Array',
  'Infinity',
  'Map',
  'Math',
  'Number',
  'Object',
  'Set',
  'String',
  'WeakMap',
];

const project = (name, folder, extra = {}) => ({
  displayName: name,
  testMatch: [`<rootDir>/${folder}/**/*.test.{ts,tsx}`],
  testEnvironment: 'node',
  sandboxInjectedGlobals: globalsUsedOften,
  transform: { '^.+\\.tsx?$': sources },
  ...extra,
});

/** Large packages that Jest runs as they are. */
const whole = ['@floating-ui', '@testing-library', 'elkjs', 'fast-check', 'katex', 'react', 'react-dom', 'scheduler'];

/** Core and web are tested from their sources, with the packages that are ES modules turned into what Jest runs. */
const fromSources = {
  transform: { '^.+\\.(tsx?|m?js)$': sources },
  transformIgnorePatterns: [`/node_modules/(${whole.join('|')})/`],
  moduleNameMapper: {
    // Sources import each other by the names of the built files.
    '^(\\.{1,2}/.*)\\.js$': '$1',
    // The layout library works in the same thread here.
    '^.*/elk$': '<rootDir>/packages/web/test/elk.ts',
    '\\.(css|svg)$': '<rootDir>/packages/web/test/nothing.ts',
    '^@nailset/core$': '<rootDir>/packages/core/src/index.ts',
    '^@nailset/core/diagrams$': '<rootDir>/packages/core/src/diagrams.ts',
    '^@nailset/core/checks$': '<rootDir>/packages/core/src/checks.ts',
    '^@nailset/core/workings$': '<rootDir>/packages/core/src/workings.ts',
  },
};

export default {
  testTimeout: 150_000,
  testSequencer: '<rootDir>/jest.sequencer.mjs',
  projects: [
    project('core', 'packages/core/test', { ...fromSources, setupFiles: ['<rootDir>/packages/core/test/setup.ts'] }),
    project('web', 'packages/web/test', {
      ...fromSources,
      setupFiles: ['<rootDir>/packages/web/test/setup.ts'],
      setupFilesAfterEnv: ['<rootDir>/packages/web/test/typesetter.ts'],
    }),
    project('server', 'packages/server/test'),
    project('e2e', 'e2e'),
  ],
};
