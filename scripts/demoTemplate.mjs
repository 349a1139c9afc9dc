// The demo school laid out once, in a database of its own, for every test that starts from it: each takes a copy.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';
import pg from 'pg';

export const DEMO_CLOCK = '2026-11-18T10:20:00Z';
export const DEMO_TEMPLATE = 'demo_template';

/** A demo school in a database of this name, made by the program that `npm start` runs before its first start. */
export async function layOutDemo(admin, env, database) {
  await admin.query(`drop database if exists ${database} with (force)`);
  await admin.query(`create database ${database} owner rosemary_owner`);
  await admin.query(`grant create on database ${database} to rosemary_app`);
  const named = (url) => url.replace(/\/rosemary$/, `/${database}`);
  const child = spawn(process.execPath, [fileURLToPath(new URL('../dist/server/prepare.mjs', import.meta.url))], {
    env: {
      ...env,
      NODE_ENV: 'production',
      ROSEMARY_DATABASE_URL: named(env.ROSEMARY_DATABASE_URL),
      ROSEMARY_OWNER_URL: named(env.ROSEMARY_OWNER_URL),
      ROSEMARY_CLOCK: DEMO_CLOCK,
    },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const [status] = await once(child, 'exit');
  if (status !== 0) throw new Error('The demo school could not be laid out; see above.');
}

/** Lays it out unless it is there; of two who ask at once, one does it and the other waits. */
export async function layOutTemplate(env) {
  const admin = new pg.Client({ connectionString: env.ROSEMARY_SUPER_URL });
  await admin.connect();
  try {
    await admin.query('select pg_advisory_lock(hashtext($1))', [DEMO_TEMPLATE]);
    const { rowCount } = await admin.query(
      "select 1 from pg_database where datname = $1 and shobj_description(oid, 'pg_database') = 'whole'",
      [DEMO_TEMPLATE],
    );
    if (rowCount !== 0) return DEMO_TEMPLATE;
    await layOutDemo(admin, env, DEMO_TEMPLATE);
    // One whose laying out was broken off is not taken for whole.
    await admin.query(`comment on database ${DEMO_TEMPLATE} is 'whole'`);
    return DEMO_TEMPLATE;
  } finally {
    await admin.end();
  }
}
