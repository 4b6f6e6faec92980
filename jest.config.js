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
module.exports = {
  testEnvironment: 'node',
  roots: [
    '<rootDir>/packages',
    '<rootDir>/apps/server',
    '<rootDir>/apps/cli',
    '<rootDir>/apps/outside',
    '<rootDir>/apps/web/test',
  ],
  testMatch: ['**/*.spec.ts'],
  modulePathIgnorePatterns: ['/dist/'],
  transform: { '^.+\\.ts$': swc },
  moduleNameMapper: { '^@corvun/(core|contract|formats|keeping)$': '<rootDir>/packages/$1/src' },
  testTimeout: 30000,
};
