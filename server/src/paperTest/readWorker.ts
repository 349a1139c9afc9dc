import { inThread } from '../platform/thread.ts';
import readPage, { type PageRead, type PageWish } from './readPage.ts';

/** Reads a page in a thread of its own, so that a lot of sheets makes nobody else wait. */
export const readInWorker = inThread<PageWish, PageRead>('readPage', readPage);
