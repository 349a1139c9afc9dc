// npm run bench: prints figures, the size of the work, and the ratio of each to its floor.
import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './build.mjs';
import { startDatabase } from './database.mjs';
import { installAll, prepareSchool, root, serverEnv } from './prepare.mjs';
import { ensureBrowser } from './packages.mjs';

ensureBrowser();
installAll();
await build(root);
const folder = mkdtempSync(join(tmpdir(), 'rosemary-bench-'));
chmodSync(folder, 0o711);
const database = await startDatabase({ data: folder });
try {
  spawnSync(process.execPath, ['scripts/scriptBytes.mjs'], { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] });
  const env = serverEnv(database, { ROSEMARY_CLOCK: '2026-11-18T10:20:00Z', PORT: '3950', ROSEMARY_DATA: folder });
  prepareSchool(env);
  // One by name, or all of them.
  const wanted = process.argv.slice(2);
  const files = [
    'totals',
    'gradebook',
    'spreadsheet',
    'scrolling',
    'pages',
    'building',
    'packages',
    'matching',
    'marking',
    'quiz',
    'questions',
    'sheets',
    'remark',
    'progress',
    'handover',
    'peer',
    'reviewing',
    'taking',
    'siege',
  ];
  for (const file of wanted.length === 0 ? files : files.filter((name) => wanted.includes(name)))
    spawnSync(join(root, 'node_modules/.bin/tsx'), [`bench/src/${file}.ts`], { cwd: root, env, stdio: ['ignore', 'inherit', 'inherit'] });
} finally {
  database.stop();
  rmSync(folder, { recursive: true, force: true });
}
