const project = (name, extra = {}) => ({
  displayName: name,
  rootDir: `<rootDir>/${name}`.replace('<rootDir>', import.meta.dirname),
  testEnvironment: 'node',
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '^.+\\.ts$': ['ts-jest', { useESM: true, diagnostics: false, tsconfig: `${import.meta.dirname}/tsconfig.base.json` }] },
  moduleNameMapper: { '^@rosemary/(\\w+)$': `${import.meta.dirname}/$1/src/index.ts` },
  testMatch: ['**/*.test.ts'],
  ...extra,
});

export default {
  projects: [
    project('core'),
    project('api'),
    project('web', {
      // Components are mounted; packages are the same as in the browser, entered from Node.
      transform: {
        '^.+\\.vue$': `${import.meta.dirname}/scripts/vueForJest.mjs`,
        '^.+\\.ts$': ['ts-jest', { useESM: true, diagnostics: false, tsconfig: `${import.meta.dirname}/tsconfig.base.json` }],
      },
      extensionsToTreatAsEsm: ['.ts', '.vue'],
      moduleFileExtensions: ['js', 'mjs', 'cjs', 'ts', 'json', 'vue'],
      testEnvironmentOptions: { customExportConditions: ['node', 'node-addons'] },
      moduleNameMapper: {
        '^@rosemary/(\\w+)$': `${import.meta.dirname}/$1/src/index.ts`,
        '\\.css$': `${import.meta.dirname}/scripts/noStyle.mjs`,
      },
    }),
    project('server'),
    project('demo'),
    project('e2e', { injectGlobals: true }),
  ],
};
