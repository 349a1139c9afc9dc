// npm run reset: the demo school from its beginning. What was typed into it is gone.
import { existsSync } from 'node:fs';
import { dataFolder, prepareSchool, ready, serverEnv } from './prepare.mjs';

const data = dataFolder();
if (!existsSync(data)) {
  process.stdout.write('There is no school here yet; npm start lays one out.\n');
  process.exit(0);
}
const database = await ready({ data });
if (database.joined) {
  process.stderr.write('Rosemary is running with this data. Stop it first (Ctrl-C in its window).\n');
  process.exit(1);
}
try {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: database.superUrl });
  await client.connect();
  await client.query('drop database if exists rosemary with (force)');
  await client.query('create database rosemary owner rosemary_owner');
  await client.query('grant create on database rosemary to rosemary_app');
  await client.end();
  prepareSchool(serverEnv(database));
  process.stdout.write('The school is as new.\n');
} finally {
  database.stop();
}
