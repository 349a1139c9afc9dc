import { fingerprints, foldedWords } from '@rosemary/core';
import { readdirSync, readFileSync } from 'node:fs';
import { createServer, type IncomingMessage, type Server } from 'node:http';
import { listen, type Served } from './listen.ts';

interface Kept {
  readonly id: string;
  readonly title: string;
  readonly text: string;
}
const MOST_BYTES = 16_777_216;
const MOST_ANSWERS = 20;

async function readJson(request: IncomingMessage): Promise<Record<string, unknown> | null> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > MOST_BYTES) return null;
    parts.push(part);
  }
  try {
    const value = JSON.parse(Buffer.concat(parts).toString('utf8')) as unknown;
    return typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : null;
  } catch {
    return null;
  }
}

/** The texts that ship with it: the first line of each is its title. */
function shipped(folder: URL): Kept[] {
  return readdirSync(folder)
    .sort()
    .map((name) => {
      const text = readFileSync(new URL(name, folder), 'utf8');
      return { id: name, title: text.split('\n')[0] ?? name, text };
    });
}

/** A collection of texts as a service: POST /search with fingerprints, POST /documents with a work, GET /documents/:id. */
export function makeCollection(folder: URL): Server {
  const documents = new Map(shipped(folder).map((d) => [d.id, d]));
  const search = (k: number, w: number, prints: readonly number[]): Kept[] => {
    const wanted = new Set(prints);
    return [...documents.values()]
      .map((document) => {
        const own = fingerprints(
          foldedWords(document.text).map((word) => word.word),
          { k, w },
        );
        return { document, shared: own.filter((p) => wanted.has(p.hash)).length };
      })
      .filter((d) => d.shared > 0)
      .sort((a, b) => b.shared - a.shared)
      .slice(0, MOST_ANSWERS)
      .map((d) => d.document);
  };
  return createServer((request, response) => {
    const answer = (status: number, body: unknown): void => {
      response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
    };
    const path = (request.url ?? '').split('?')[0] ?? '';
    void (async () => {
      if (request.method === 'GET' && path.startsWith('/documents/')) {
        const found = documents.get(decodeURIComponent(path.slice('/documents/'.length)));
        answer(found === undefined ? 404 : 200, found ?? { error: 'not here' });
        return;
      }
      const body = request.method === 'POST' ? await readJson(request) : null;
      if (path === '/search' && body !== null && Array.isArray(body.prints) && typeof body.k === 'number' && typeof body.w === 'number')
        answer(200, search(body.k, body.w, body.prints as number[]));
      else if (path === '/documents' && body !== null && [body.id, body.title, body.text].every((v) => typeof v === 'string')) {
        documents.set(body.id as string, body as unknown as Kept);
        answer(200, { kept: documents.size });
      } else answer(400, { error: 'not understood' });
    })();
  });
}

/** Serves it on loopback; answers with its address. */
export const serveCollection = (folder: URL, port: number): Promise<Served> => listen(makeCollection(folder), port);
