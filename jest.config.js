const swc = [
  '@swc/jest',
  {
    jsc: {
      parser: { syntax: 'typescript', decorators: true },
      transform: { legacyDecorator: true, decoratorMetadata: true },
      target: 'es2022',
      keepClassNames: true,
    },
    module: { type: 'commonjs' },
  },
];

/**
 * `unit`: the packages and what of the applications needs no server. `server`: the applications as they are started; the
 * server's own tests in groups. `alone`: any of those by itself, when it is named.
 */
const project = (displayName, folders, more = {}) => ({
  displayName,
  rootDir: __dirname,
  testEnvironment: 'node',
  roots: folders.map((folder) => `<rootDir>/${folder}`),
  testMatch: ['**/*.spec.ts'],
  modulePathIgnorePatterns: ['/dist/', '/built/'],
  transform: { '^.+\\.ts$': swc },
  moduleNameMapper: {
    '^@corvun/(core|contract|formats|keeping|description)$': '<rootDir>/packages/$1/src',
    '^@corvun/contract/address$': '<rootDir>/packages/contract/src/address',
  },
  ...more,
});

const globalSetup = '<rootDir>/scripts/template.mjs';
const others = ['apps/cli', 'apps/outside', 'apps/extension/test', 'apps/web/test-served'];

module.exports = {
  testTimeout: 120_000,
  projects: [
    project('unit', ['packages', 'apps/web/test']),
    project('server', ['apps/server', ...others], {
      testMatch: ['<rootDir>/apps/server/test/groups/*.group.ts', ...others.map((folder) => `<rootDir>/${folder}/**/*.spec.ts`)],
      globalSetup,
    }),
    project('alone', ['apps/server'], { globalSetup }),
  ],
};
