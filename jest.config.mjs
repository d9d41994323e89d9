/** Rooms that run on Node share one set-up: TypeScript through swc, as ES modules. */
function nodeRoom(name, folder = name) {
  return {
    displayName: name,
    rootDir: `./${folder}`,
    testEnvironment: 'node',
    testMatch: ['<rootDir>/test/**/*.spec.ts'],
    extensionsToTreatAsEsm: ['.ts'],
    transform: {
      '^.+\\.ts$': [
        '@swc/jest',
        { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'es6' }, sourceMaps: 'inline' },
      ],
    },
  };
}

const web = {
  displayName: 'web',
  preset: 'jest-preset-angular',
  rootDir: './web',
  testMatch: ['<rootDir>/test/**/*.spec.ts'],
  setupFilesAfterEnv: ['<rootDir>/test/support/setup.ts'],
  moduleNameMapper: { '/start-worker$': '<rootDir>/test/support/no-worker.ts' },
  transform: {
    '^.+\\.(ts|mjs|js|html|svg)$': [
      'jest-preset-angular',
      { tsconfig: '<rootDir>/tsconfig.spec.json', stringifyContentPathRegex: '\\.(html|svg)$' },
    ],
  },
  transformIgnorePatterns: ['node_modules/(?!.*\\.(mjs|svg)$|comlink|earcut|flatbush|flatqueue|d3-)'],
};

export default {
  globalSetup: './scripts/jest-setup.mjs',
  // Independent readers take their time on a busy machine; what hangs is still found.
  testTimeout: 180_000,
  projects: [
    ...['core', 'contract', 'press', 'demo', 'stand-ins', 'cli', 'server'].map((name) => nodeRoom(name)),
    nodeRoom('scripts'),
    web,
  ],
};
