const common = {
  transform: {
    '^.+\\.tsx?$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
      },
    ],
  },
  // Sources import each other by the names of the built files.
  moduleNameMapper: {
    '^(\\.{1,2}/.*)\\.js$': '$1',
    '\\.(css|svg)$': '<rootDir>/packages/web/test/nothing.ts',
    '^@nailset/core$': '<rootDir>/packages/core/src/index.ts',
  },
  transformIgnorePatterns: [],
  testEnvironment: 'node',
};

const project = (name, folder, extra = {}) => ({
  ...common,
  displayName: name,
  testMatch: [`<rootDir>/${folder}/**/*.test.{ts,tsx}`],
  ...extra,
});

export default {
  testTimeout: 60_000,
  projects: [
    project('core', 'packages/core/test', {
      transform: { ...common.transform, '/node_modules/.+\\.m?js$': common.transform['^.+\\.tsx?$'] },
    }),
    project('web', 'packages/web/test', {
      setupFiles: ['<rootDir>/packages/web/test/setup.ts'],
      transform: { ...common.transform, '/node_modules/.+\\.m?js$': common.transform['^.+\\.tsx?$'] },
    }),
    project('server', 'packages/server/test'),
    project('e2e', 'e2e'),
  ],
};
