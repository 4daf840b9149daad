/** Unit and server tests. MariaDB comes up once for all of them (scripts/testing/setup.ts). */
module.exports = {
  testEnvironment: 'node',
  testMatch: ['<rootDir>/{core,server,standins,scripts,web/src}/**/*.test.{ts,tsx}'],
  modulePathIgnorePatterns: ['<rootDir>/dist', '<rootDir>/.data', '<rootDir>/web/dist'],
  moduleNameMapper: { '^@zusammen/core/(.*)$': '<rootDir>/core/$1/index.ts' },
  transform: {
    '^.+\\.(tsx?|mjs|js)$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', decorators: true, tsx: true },
          target: 'es2022',
          keepClassNames: true,
          transform: { legacyDecorator: true, useDefineForClassFields: false, react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  transformIgnorePatterns: [
    '/node_modules/(?!(jose|openid-client|oauth4webapi|uuid|parse5|entities|double-metaphone|munkres|@marcbachmann)/)',
  ],
  globalSetup: '<rootDir>/scripts/testing/setup.ts',
  globalTeardown: '<rootDir>/scripts/testing/teardown.ts',
  testTimeout: 60000,
};
