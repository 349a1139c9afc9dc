import { fingerprints, foldedWords, USUAL_NET } from '@rosemary/core';
import { request } from 'node:http';

export interface CollectionDocument {
  readonly id: string;
  readonly title: string;
  readonly text: string;
}

const WAIT_MS = 10_000;
const MOST_BYTES = 8_388_608;

/** One question to the service that keeps a collection of texts; null where it does not answer in time or in kind. */
function ask(url: string, path: string, body: unknown): Promise<unknown> {
  return new Promise((done) => {
    const sent = body === undefined ? null : JSON.stringify(body);
    const asked = request(
      `${url}${path}`,
      { method: sent === null ? 'GET' : 'POST', timeout: WAIT_MS, headers: sent === null ? {} : { 'content-type': 'application/json' } },
      (answer) => {
        const parts: Buffer[] = [];
        let size = 0;
        answer.on('data', (part: Buffer) => {
          size += part.length;
          if (size > MOST_BYTES) asked.destroy();
          else parts.push(part);
        });
        answer.on('end', () => {
          try {
            done(answer.statusCode === 200 ? JSON.parse(Buffer.concat(parts).toString('utf8')) : null);
          } catch {
            done(null);
          }
        });
        answer.on('close', () => {
          done(null);
        });
      },
    );
    asked.on('error', () => {
      done(null);
    });
    asked.on('timeout', () => {
      asked.destroy();
    });
    asked.end(sent ?? undefined);
  });
}

const isDocument = (value: unknown): value is CollectionDocument =>
  typeof value === 'object' &&
  value !== null &&
  ['id', 'title', 'text'].every((name) => typeof (value as Record<string, unknown>)[name] === 'string');

/** The documents of the collection that share fingerprints with a text; null where the service does not answer. Only fingerprints leave the house. */
export async function searchCollection(url: string, text: string): Promise<CollectionDocument[] | null> {
  const prints = fingerprints(
    foldedWords(text).map((w) => w.word),
    USUAL_NET,
  ).map((p) => p.hash);
  const found = await ask(url, '/search', { ...USUAL_NET, prints });
  if (!Array.isArray(found)) return null;
  return found.filter(isDocument);
}

/** One document as it stands there now; null where it is gone or the service does not answer. */
export async function findCollectionDocument(url: string, id: string): Promise<CollectionDocument | null> {
  const found = await ask(url, `/documents/${encodeURIComponent(id)}`, undefined);
  return isDocument(found) ? found : null;
}

/** Gives a work to the collection, for later terms; the same work twice is there once. */
export async function joinCollection(url: string, document: CollectionDocument): Promise<boolean> {
  return (await ask(url, '/documents', document)) !== null;
}
