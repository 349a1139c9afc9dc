import type { Server, ServerResponse } from 'node:http';
import type { EventHub } from './events.ts';

/** How long requests that are under way may still take when the server is told to end. */
const DRAIN_MS = 15_000;

/**
 * Ends a server without losing what it is at: nobody new is let in, lines of events are told to come back elsewhere, what is under way is
 * answered, and only what takes longer than there is time for is cut.
 */
export function drainOf(server: Server, events: EventHub): () => Promise<void> {
  const open = new Set<ServerResponse>();
  let isEnding = false;
  server.on('request', (_request, response: ServerResponse) => {
    open.add(response);
    if (isEnding) response.setHeader('connection', 'close');
    response.once('close', () => {
      open.delete(response);
      if (isEnding) server.closeIdleConnections();
    });
  });
  return async () => {
    isEnding = true;
    const ended = new Promise<void>((done) => {
      server.close(() => {
        done();
      });
    });
    events.sendAway();
    for (const response of open) if (!response.headersSent) response.setHeader('connection', 'close');
    server.closeIdleConnections();
    const late = setTimeout(() => {
      server.closeAllConnections();
    }, DRAIN_MS);
    await ended;
    clearTimeout(late);
  };
}
