// npm start: everything a fresh machine needs, then Rosemary on one port until Ctrl-C.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { dataFolder, prepareSchool, ready, root, serverEnv } from './prepare.mjs';
import { startCollection, startRegistrar } from './standins.mjs';

const pgPort = process.env.ROSEMARY_PG_PORT === undefined ? undefined : Number(process.env.ROSEMARY_PG_PORT);

try {
  const database = await ready({ data: dataFolder(), port: pgPort });
  let server = null;
  let isStopping = false;
  const stop = (code) => {
    if (isStopping) return;
    isStopping = true;
    if (server !== null && server.exitCode === null) server.kill('SIGTERM');
    else {
      database.stop();
      process.exit(code);
    }
  };
  // Ctrl-C reaches the whole group: the server ends by itself, and its database is stopped after it.
  process.on('SIGINT', () => stop(0));
  process.on('SIGTERM', () => stop(0));
  try {
    prepareSchool(serverEnv(database));
  } catch (error) {
    database.stop();
    throw error;
  }
  const collection = await startCollection();
  const env = serverEnv(database);
  // A registrar of the school’s own stands in place of the simulated one.
  const registrar =
    process.env.ROSEMARY_REGISTRAR_URL === undefined ? await startRegistrar(env.ROSEMARY_OWNER_URL, join(dataFolder(), 'standins')) : null;
  if (registrar !== null) process.stdout.write(`The simulated registrar is at ${registrar.page}\n`);
  server = spawn(process.execPath, ['--enable-source-maps', join(root, 'dist/server/main.mjs')], {
    cwd: root,
    env: serverEnv(database, { ...(collection === null ? {} : { ROSEMARY_COLLECTION_URL: collection.url }), ...registrar?.env }),
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  server.on('exit', (code) => {
    collection?.stop();
    registrar?.stop();
    database.stop();
    process.exit(code ?? 0);
  });
} catch (error) {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
}
