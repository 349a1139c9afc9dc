import { addPerson, makePool, migrate, run, withDb } from '@rosemary/server';
import { randomBytes } from 'node:crypto';
import { demoInstant, isSchoolThere, loadDemo } from './load.ts';

/** Before the server starts: the schema brought up to date, and on the first start a school to open. */
const {
  ROSEMARY_OWNER_URL: ownerUrl = '',
  ROSEMARY_DATABASE_URL: appUrl = '',
  ROSEMARY_MIGRATIONS: folder = '',
  ROSEMARY_CLOCK: clock,
  ROSEMARY_DEMO: demo,
} = process.env;
await migrate(ownerUrl, folder);
const pool = makePool(appUrl, 2);
await withDb(pool, true, async (db) => {
  if (await isSchoolThere(db)) return;
  if (demo === '0') {
    const password = randomBytes(9).toString('base64url');
    await run(db, "insert into school (title, is_demo) values ('A new school', false)");
    await addPerson(db, { email: 'administrator@rosemary.local', givenName: 'School', familyName: 'Administrator', password }, true);
    process.stdout.write(
      `\nAn empty school is ready. Its administrator signs in with\n  address   administrator@rosemary.local\n  password  ${password}\nThe password is shown only now; change it after signing in.\n\n`,
    );
    return;
  }
  process.stdout.write('Laying out the demo school…\n');
  const real = clock === undefined ? Date.now() : Date.parse(clock);
  await loadDemo(db, clock === undefined ? demoInstant(real) : real, real);
});
await pool.end();
