// npm test: packages, the build, every check, core and server and browser tests; ends with `N passed, N failed`.
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './build.mjs';
import { startDatabase } from './database.mjs';
import { ensureBrowser } from './packages.mjs';
import { installAll, root, serverEnv } from './prepare.mjs';

const bin = (name) => join(root, 'node_modules/.bin', name);
let failed = 0;
let passed = 0;

async function check(title, command, args) {
  const started = Date.now();
  const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
  let said = '';
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (part) => {
      said += part;
    });
  const [status] = await once(child, 'close');
  const isRight = status === 0;
  process.stdout.write(`${said}${isRight ? 'right' : 'WRONG'}: ${title} (${Math.round((Date.now() - started) / 1000)} s)\n`);
  if (isRight) passed += 1;
  else failed += 1;
}

/** Two at a time, as there are two cores; what each says is written when it is through. */
async function inPairs(works) {
  const left = [...works];
  const hand = async () => {
    for (let work = left.shift(); work !== undefined; work = left.shift()) await work();
  };
  await Promise.all([hand(), hand()]);
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
      // A machine that does much else is slow, not wrong.
      '--testTimeout=60000',
      // Every file of the server's tests and every journey has a database, a port and a browser of its own. Left to itself Jest
      // runs everything in one process on two cores, and what one file leaves in memory is then never given back.
      '--maxWorkers=2',
      '--workerIdleMemoryLimit=1200MB',
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
  // It needs a package, and on a fresh machine those are here only now.
  const { layOutTemplate } = await import('./demoTemplate.mjs');
  const { writeAnswerSchemas } = await import('./answerSchemas.mjs');
  await build(root);
  chmodSync(folder, 0o711);
  database = await startDatabase({ data: folder, fast: true });
  const env = { ...serverEnv(database), ROSEMARY_TEST_FOLDER: folder, ROSEMARY_SUPER_URL: database.superUrl, NODE_ENV: 'test' };
  delete env.ROSEMARY_CLOCK;
  writeAnswerSchemas(join(folder, 'answers.json'));
  const folders = ['core', 'api', 'server', 'web/src', 'demo', 'e2e', 'bench', 'standins'];
  await inPairs([
    // The demo that the server's tests and the journeys start from is laid out meanwhile.
    () => layOutTemplate(env),
    () => check('types of the pages', bin('vue-tsc'), ['-p', 'web/tsconfig.json']),
    () => check('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']),
    () => check('types', bin('tsc'), ['-p', 'tsconfig.json']),
    () => check('ESLint', bin('eslint'), ['.', '--max-warnings', '0']),
    () => check('layers and cycles', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', ...folders]),
    () => check('nothing unused', bin('knip'), []),
    () => check('share of tests', process.execPath, ['scripts/testShare.mjs']),
    () => check('pages made of parts', process.execPath, ['scripts/rawControls.mjs']),
    () => check('plain words', process.execPath, ['scripts/words.mjs']),
    () => check('script before each page', process.execPath, ['scripts/scriptBytes.mjs']),
  ]);
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
