import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import readPage, { type PageRead, type PageWish } from './readPage.ts';

/** The program of the thread stands beside the built server; where there is none, pages are read in place. */
const PROGRAM = fileURLToPath(new URL('readPage.mjs', import.meta.url));
let pool: Piscina<PageWish, PageRead> | null | undefined;

/** Reads a page in a thread of its own, so that a lot of sheets makes nobody else wait. One thread: the others are for those who wait. */
export async function readInWorker(wish: PageWish): Promise<PageRead> {
  pool ??= existsSync(PROGRAM) ? new Piscina({ filename: PROGRAM, maxThreads: 1, idleTimeout: 30_000 }) : null;
  return pool === null ? readPage(wish) : pool.run(wish);
}
