/** Unit and store tests: everything beside the code. The browser journeys have a configuration of their own. */
const swc = [
  '@swc/jest',
  {
    jsc: {
      parser: { syntax: 'typescript', tsx: true },
      target: 'es2022',
      transform: { react: { runtime: 'automatic' } },
    },
    // Packages of ES modules that are loaded when they are wanted.
    module: { type: 'commonjs', ignoreDynamic: true },
  },
];
const base = {
  testEnvironment: 'node',
  // Packages that are ES modules alone.
  transform: { '^.+\\.tsx?$': swc, 'node_modules/osc-min/.+\\.js$': swc },
  transformIgnorePatterns: ['node_modules/(?!osc-min/)'],
  moduleNameMapper: {
    '^osc-min$': '<rootDir>/node_modules/osc-min/dist/index.js',
    '^@/(.*)$': '<rootDir>/src/$1',
    '^@demo/(.*)$': '<rootDir>/demo/$1',
  },
  extensionsToTreatAsEsm: [],
};

export default {
  // A loaded machine is slow; a test that hangs is found all the same.
  testTimeout: 120_000,
  projects: [
    {
      ...base,
      displayName: 'unit',
      testMatch: [
        '<rootDir>/src/**/*.test.ts',
        '<rootDir>/src/**/*.test.tsx',
        '<rootDir>/demo/**/*.test.ts',
      ],
    },
    { ...base, displayName: 'browser', testMatch: ['<rootDir>/tests/browser/*.test.ts'] },
    // Journeys that measure when something comes: they have the machine to themselves.
    { ...base, displayName: 'moments', testMatch: ['<rootDir>/tests/browser/moments/*.test.ts'] },
  ],
};
