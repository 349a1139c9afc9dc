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
  projects: [project('core'), project('api'), project('web'), project('server'), project('demo'), project('e2e', { injectGlobals: true })],
};
