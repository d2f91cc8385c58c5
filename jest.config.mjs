const shared = {
  testEnvironment: 'node',
  extensionsToTreatAsEsm: [],
  transform: {
    '^.+\\.(ts|js|mjs)$': [
      '@swc/jest',
      { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'commonjs' } },
    ],
  },
  transformIgnorePatterns: [
    '/node_modules/(?!(?:.*/)?(openid-client|oauth4webapi|jose|@seriousme|@scure|@noble|@tanstack|remove-accents|cookie|double-metaphone|@faker-js|any-ascii|htmlparser2|entities|domhandler|domutils|dom-serializer|domelementtype|linkedom|css-select|css-what|nth-check|boolbase|uhyphen|entities)/)',
  ],
  modulePathIgnorePatterns: ['/dist/', '/.emporikon/'],
};

export default {
  testTimeout: 90_000,
  maxWorkers: 2,
  // A process keeps more of every file than it lets go of.
  workerIdleMemoryLimit: '1500MB',
  projects: [
    {
      ...shared,
      displayName: 'unit',
      testMatch: [
        '<rootDir>/core/**/*.test.ts',
        '<rootDir>/contract/**/*.test.ts',
        '<rootDir>/cli/**/*.test.ts',
        '<rootDir>/web/**/*.test.ts',
        '<rootDir>/clipper/**/*.test.ts',
        '<rootDir>/setup/**/*.test.ts',
      ],
    },
    {
      ...shared,
      displayName: 'server',
      testMatch: [
        '<rootDir>/server/**/*.test.ts',
        '<rootDir>/standins/**/*.test.ts',
        '<rootDir>/demo/**/*.test.ts',
      ],
    },
  ],
};
