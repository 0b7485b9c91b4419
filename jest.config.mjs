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
  moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1', '^@nailset/core$': '<rootDir>/packages/core/src/index.ts' },
  transformIgnorePatterns: ['node_modules/(?!(typebox|d3-[a-z]+|internmap)/)'],
  testEnvironment: 'node',
};

const project = (name, folder, extra = {}) => ({
  ...common,
  displayName: name,
  testMatch: [`<rootDir>/${folder}/**/*.test.ts`],
  ...extra,
});

export default {
  testTimeout: 60_000,
  projects: [
    project('core', 'packages/core/test', {
      transform: { ...common.transform, '/node_modules/.+\\.m?js$': common.transform['^.+\\.tsx?$'] },
    }),
    project('web', 'packages/web/test', {
      transform: { ...common.transform, '/node_modules/.+\\.m?js$': common.transform['^.+\\.tsx?$'] },
    }),
    project('server', 'packages/server/test'),
    project('e2e', 'e2e'),
  ],
};
