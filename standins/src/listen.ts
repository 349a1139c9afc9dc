import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';

export interface Served {
  readonly url: string;
  readonly stop: () => Promise<void>;
}

/** Serves on loopback, at this port or, for 0, at any that is free; tells its address, and how to end it at once. */
export function listen(server: Server, port: number): Promise<Served> {
  return new Promise((done, fail) => {
    server.once('error', fail);
    server.listen(port, '127.0.0.1', () => {
      const { port: taken } = server.address() as AddressInfo;
      done({
        url: `http://127.0.0.1:${taken}`,
        stop: () =>
          new Promise((ended) => {
            server.close(() => {
              ended();
            });
            server.closeAllConnections();
          }),
      });
    });
  });
}
