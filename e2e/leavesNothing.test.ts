import { jest } from '@jest/globals';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import pg from 'pg';
import { startRosemary } from './rosemary.ts';

/** A run that fails leaves nothing behind: neither where a step of beginning fails, nor where whoever began it is killed. */
jest.setTimeout(120_000);

const isThere = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

describe('a run that fails', () => {
  it('takes its server along, even where it is killed', async () => {
    const script = `import(${JSON.stringify(new URL('../scripts/serverProcess.mjs', import.meta.url).href)}).then((m) => process.stdout.write(String(m.spawnServer(process.env).pid)))`;
    const parent = spawn(process.execPath, ['-e', script], { env: { ...process.env, PORT: '0' }, stdio: ['ignore', 'pipe', 'ignore'] });
    const [said] = (await once(parent.stdout, 'data')) as [Buffer];
    const pid = Number(said.toString());
    expect(isThere(pid)).toBe(true);
    parent.kill('SIGKILL');
    await once(parent, 'exit');
    const until = Date.now() + 30_000;
    while (isThere(pid) && Date.now() < until) await new Promise((done) => setImmediate(done));
    expect(isThere(pid)).toBe(false);
  });

  it('drops its database and ends what it began, where a later step of beginning fails', async () => {
    const owner = process.env.ROSEMARY_OWNER_URL;
    // Nobody can be connected as, so that the school cannot be prepared.
    process.env.ROSEMARY_OWNER_URL = 'postgres://nobody@127.0.0.1:1/rosemary';
    await expect(startRosemary('fails', false)).rejects.toThrow();
    process.env.ROSEMARY_OWNER_URL = owner ?? '';
    const admin = new pg.Client({ connectionString: process.env.ROSEMARY_SUPER_URL });
    await admin.connect();
    const { rowCount } = await admin.query("select 1 from pg_database where datname = 'journey_fails'");
    await admin.end();
    expect(rowCount).toBe(0);
  });
});
