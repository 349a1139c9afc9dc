import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Every temporary folder of ours begins so and names its process, so that what a server left when it died is known. */
const PREFIX = 'rosemary-in-';

/** A folder that no other user of the machine can read. Whoever makes it removes it; that of a process that died is cleared away later. */
export const makeFolder = (): Promise<string> => mkdtemp(join(tmpdir(), `${PREFIX}${process.pid}-`));

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // One that belongs to somebody else runs, though we may not reach it.
    return (error as NodeJS.ErrnoException).code !== 'ESRCH';
  }
}

/** Removes the temporary folders of servers that run no more. Gives how many there were. */
export async function clearFolders(): Promise<number> {
  const left = (await readdir(tmpdir())).filter((name) => {
    const pid = new RegExp(`^${PREFIX}(\\d+)-`).exec(name)?.[1];
    return pid !== undefined && !isRunning(Number(pid));
  });
  await Promise.all(left.map((name) => rm(join(tmpdir(), name), { recursive: true, force: true })));
  return left.length;
}
