// The simulated outside services that start with Rosemary, each a process of its own on loopback.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root } from './prepare.mjs';

/** Starts the collection of texts; null where it does not say within ten seconds where it is: everything else works without it. */
export function startCollection() {
  const child = spawn(process.execPath, [join(root, 'dist/server/collection.mjs')], {
    cwd: root,
    // A port of its own: the one named for Rosemary is not for it.
    env: { ...process.env, PORT: '0' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((done) => {
    const give = (url) => {
      clearTimeout(late);
      done(url === null ? null : { url, stop: () => child.kill('SIGTERM') });
    };
    const late = setTimeout(() => {
      child.kill('SIGTERM');
      give(null);
    }, 10_000);
    child.stdout.on('data', (bytes) => {
      const said = /^collection (\S+)/m.exec(String(bytes));
      if (said !== null) give(said[1]);
    });
    child.on('exit', () => give(null));
  });
}
