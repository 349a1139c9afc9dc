// npm test: packages, the build, every check, core and server and browser tests; ends with `N passed, N failed`.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './build.mjs';
import { startDatabase } from './database.mjs';
import { ensureBrowser } from './packages.mjs';
import { installAll, root, serverEnv } from './prepare.mjs';

const bin = (name) => join(root, 'node_modules/.bin', name);
let failed = 0;
let passed = 0;

function check(title, command, args, env = process.env) {
  const started = Date.now();
  const done = spawnSync(command, args, { cwd: root, env, stdio: ['ignore', 'inherit', 'inherit'] });
  const isRight = done.status === 0;
  process.stdout.write(`${isRight ? 'right' : 'WRONG'}: ${title} (${Math.round((Date.now() - started) / 1000)} s)\n`);
  if (isRight) passed += 1;
  else failed += 1;
  return isRight;
}

function jest(projects, env) {
  const report = join(env.ROSEMARY_TEST_FOLDER, `${projects.join('-')}.json`);
  const done = spawnSync(
    process.execPath,
    [
      '--experimental-vm-modules',
      join(root, 'node_modules/jest/bin/jest.js'),
      '--selectProjects',
      ...projects,
      '--json',
      '--outputFile',
      report,
      '--silent=false',
      // Every file of the server's tests and every journey has a database, a port and a browser of its own.
      ...(projects.includes('core') ? [] : ['--maxWorkers=2']),
    ],
    { cwd: root, env: { ...env, NODE_NO_WARNINGS: '1' }, stdio: ['ignore', 'ignore', 'inherit'] },
  );
  if (!existsSync(report)) {
    process.stdout.write(`The tests of ${projects.join(', ')} gave no report (exit ${done.status}).\n`);
    failed += 1;
    return;
  }
  const result = JSON.parse(readFileSync(report, 'utf8'));
  passed += result.numPassedTests;
  failed += result.numFailedTests + (result.numRuntimeErrorTestSuites ?? 0);
}

// The tests have a folder of their own, outside the clone, so that a running demo is never touched.
const folder = mkdtempSync(join(process.env.ROSEMARY_TEST_ROOT ?? tmpdir(), 'rosemary-test-'));
let database = null;
try {
  ensureBrowser();
  installAll();
  await build(root);
  check('ESLint', bin('eslint'), ['.', '--max-warnings', '0']);
  check('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
  check('types', bin('tsc'), ['-p', 'tsconfig.json']);
  check('types of the pages', bin('vue-tsc'), ['-p', 'web/tsconfig.json']);
  check('layers and cycles', bin('depcruise'), [
    '--config',
    '.dependency-cruiser.cjs',
    'core',
    'api',
    'server',
    'web/src',
    'demo',
    'e2e',
    'bench',
    'standins',
  ]);
  check('nothing unused', bin('knip'), []);
  check('share of tests', process.execPath, ['scripts/testShare.mjs']);
  const { chmodSync } = await import('node:fs');
  chmodSync(folder, 0o711);
  database = await startDatabase({ data: folder, fast: true });
  const env = { ...serverEnv(database), ROSEMARY_TEST_FOLDER: folder, ROSEMARY_SUPER_URL: database.superUrl, NODE_ENV: 'test' };
  delete env.ROSEMARY_CLOCK;
  jest(['core', 'api', 'web'], env);
  jest(['server', 'demo'], env);
  jest(['e2e'], env);
} catch (error) {
  process.stdout.write(`${error.stack}\n`);
  failed += 1;
} finally {
  database?.stop();
  rmSync(folder, { recursive: true, force: true });
}
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);
