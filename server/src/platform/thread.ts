import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';

export interface ThreadLimits {
  /** Threads at once; the others of the machine are for those who wait. */
  readonly threads?: number;
  /** What a piece of work may take of memory, in megabytes: one that takes more is ended, and the server with all others goes on. */
  readonly megabytes?: number;
  readonly milliseconds?: number;
}

/** Beside the built server, or in the built folder of the sources. */
function findProgram(name: string): string | null {
  const places = [`${name}.mjs`, `../../../dist/server/${name}.mjs`].map((place) => fileURLToPath(new URL(place, import.meta.url)));
  return places.find((place) => existsSync(place)) ?? null;
}

/**
 * Work that is done in a thread of its own, by the program of this name (see the entry points of the build), within its limits. A piece
 * that goes beyond them fails, and nobody else has waited for it. Where nothing is built the work is done in place.
 */
export function inThread<W, A>(
  name: string,
  inPlace: (wish: W) => Promise<A>,
  { threads = 1, megabytes, milliseconds }: ThreadLimits = {},
): (wish: W) => Promise<A> {
  let pool: Piscina<W, A> | null | undefined;
  const start = (): Piscina<W, A> | null => {
    const filename = findProgram(name);
    if (filename === null) return null;
    const limits = megabytes === undefined ? {} : { resourceLimits: { maxOldGenerationSizeMb: megabytes } };
    return new Piscina<W, A>({ filename, maxThreads: threads, idleTimeout: 30_000, ...limits });
  };
  return (wish) => {
    pool ??= start();
    if (pool === null) return inPlace(wish);
    return pool.run(wish, milliseconds === undefined ? {} : { signal: AbortSignal.timeout(milliseconds) });
  };
}
