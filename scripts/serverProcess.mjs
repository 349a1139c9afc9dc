// A server beside a test or a benchmark: it ends with whoever started it, however that ends, so that a run that fails leaves nothing behind.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root } from './prepare.mjs';

const END_WITH_PARENT = 'data:text/javascript,process.on("disconnect", () => process.exit())';

export function spawnServer(env) {
  return spawn(process.execPath, ['--import', END_WITH_PARENT, join(root, 'dist/server/main.mjs')], {
    env,
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  });
}
