// What start, test and bench share: packages, the build, a database with its schema and school.
import { createHash } from 'node:crypto';
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from './build.mjs';
import { startDatabase } from './database.mjs';
import { ensureNpm, ensurePostgres } from './packages.mjs';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

export function installAll() {
  const hash = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  ensurePostgres();
  ensureNpm(root, hash);
}

export function dataFolder(fallback = 'data') {
  return resolve(root, process.env.ROSEMARY_DATA ?? fallback);
}

/** The environment of a server process for a database. */
export function serverEnv(database, more = {}) {
  return {
    ...process.env,
    ROSEMARY_DATABASE_URL: database.appUrl,
    ROSEMARY_OWNER_URL: database.ownerUrl,
    ROSEMARY_SESSION_SECRET: database.sessionSecret,
    ROSEMARY_MIGRATIONS: join(root, 'server/migrations'),
    ROSEMARY_WEB: join(root, 'dist/web'),
    NODE_ENV: 'production',
    ...more,
  };
}

/** Schema brought up to date and, on the first start, a school laid out. */
export function prepareSchool(env) {
  const done = spawnSync(process.execPath, [join(root, 'dist/server/prepare.mjs')], {
    cwd: root,
    env,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (done.status !== 0) throw new Error('The database could not be prepared; see above.');
}

export async function ready({ data, port, fast = false }) {
  installAll();
  await build(root);
  return startDatabase({ data, port, fast });
}
