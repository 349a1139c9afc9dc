// npm run dev: the pages with hot reload on 5173, the server restarting on change, the same data as npm start.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { dataFolder, prepareSchool, ready, root, serverEnv } from './prepare.mjs';

const database = await ready({ data: dataFolder() });
const env = serverEnv(database, { NODE_ENV: 'development' });
prepareSchool(env);
const parts = [
  spawn(join(root, 'node_modules/.bin/tsx'), ['watch', 'server/src/main.ts'], { cwd: root, env, stdio: 'inherit' }),
  spawn(join(root, 'node_modules/.bin/vite'), [], {
    cwd: join(root, 'web'),
    env: { ...env, ROSEMARY_API_PORT: process.env.PORT ?? '3000' },
    stdio: 'inherit',
  }),
];
const stop = () => {
  for (const part of parts) part.kill('SIGTERM');
  database.stop();
  process.exit(0);
};
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
