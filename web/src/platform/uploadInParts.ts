import { PART_BYTES, type CourseFile } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import type { AnswerOf, PathOf } from '@rosemary/api/endpoints';
import { call, callWithBytes } from './call.ts';
import { HttpProblem } from './http.ts';
import { forgetKept, keep, readKept } from './kept.ts';

type Work = PathOf<typeof api.beginUpload>;

const LONGEST_WAIT_MS = 5000;

/** The same file chosen once more, also after a reload, goes on under the same name. */
function nameFor({ itemId }: Work, file: File): { id: string; forget: () => void } {
  const key = `upload ${itemId} ${file.name} ${file.size} ${file.lastModified}`;
  const id = readKept<string>(key) ?? crypto.randomUUID();
  keep(key, id);
  return {
    id,
    forget: () => {
      forgetKept(key);
    },
  };
}

/** Waits until the network is back, or a little while; each time a little longer. */
function pause(turn: number, signal: AbortSignal): Promise<void> {
  return new Promise((done) => {
    const end = (): void => {
      clearTimeout(timer);
      window.removeEventListener('online', end);
      signal.removeEventListener('abort', end);
      done();
    };
    const timer = setTimeout(end, Math.min(LONGEST_WAIT_MS, 500 * 2 ** turn));
    window.addEventListener('online', end);
    signal.addEventListener('abort', end);
  });
}

const cancelled = (): HttpProblem =>
  new HttpProblem({ type: 'urn:rosemary:cancelled', title: 'Cancelled', status: 0, detail: 'Cancelled.' });

/** Asks again while the server or the network is away; everything else is an answer. */
async function withPatience<T>(ask: () => Promise<T>, signal: AbortSignal, onWait: (waits: boolean) => void): Promise<T> {
  for (let turn = 0; ; turn += 1) {
    if (signal.aborted) throw cancelled();
    try {
      const answer = await ask();
      onWait(false);
      return answer;
    } catch (error) {
      if (!(error instanceof HttpProblem) || !error.isPassing) throw error;
      onWait(true);
      await pause(turn, signal);
    }
  }
}

/**
 * Sends a file in parts: where the connection breaks, it goes on from what has come when it is back, without anything typed or chosen
 * again. `onProgress` hears the share that has come, and whether it waits for the network.
 */
export async function uploadInParts(
  work: Work,
  file: File,
  onProgress: (share: number, waits: boolean) => void,
  signal: AbortSignal,
): Promise<CourseFile> {
  if (file.size === 0)
    throw new HttpProblem({
      type: 'urn:rosemary:invalid',
      title: 'Empty',
      status: 422,
      detail: `“${file.name}” is empty (0 bytes). Choose the file again.`,
    });
  const { id, forget } = nameFor(work, file);
  let received = 0;
  let waits = false;
  const tell = (): void => {
    onProgress(file.size === 0 ? 0 : received / file.size, waits);
  };
  const onWait = (next: boolean): void => {
    waits = next;
    tell();
  };
  try {
    ({ received } = await withPatience(() => call(api.beginUpload, work, { id, name: file.name, size: file.size }), signal, onWait));
    while (received < file.size) {
      const from = received;
      const bytes = file.slice(from, from + PART_BYTES);
      try {
        ({ received } = await withPatience(
          () => callWithBytes(api.sendUploadPart, { ...work, uploadId: id, from: String(from) }, bytes, signal),
          signal,
          onWait,
        ));
      } catch (error) {
        // The server says how far it has come: a part whose answer was lost is there already.
        if (!(error instanceof HttpProblem) || error.code !== 'conflict') throw error;
        ({ received } = error.problem.current as AnswerOf<typeof api.beginUpload>);
      }
      tell();
    }
    const done = await withPatience(() => call(api.finishUpload, { ...work, uploadId: id }), signal, onWait);
    forget();
    return done;
  } catch (error) {
    // What was refused begins afresh the next time; what was cancelled may go on.
    if (error instanceof HttpProblem && error.code !== 'cancelled') forget();
    throw error;
  }
}
