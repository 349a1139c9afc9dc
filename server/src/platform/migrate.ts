import { runner } from 'node-pg-migrate';

/** Brings the schema up to date; each migration in its own transaction, none ever edited once landed. */
export async function migrate(ownerUrl: string, folder: string): Promise<number> {
  const done = await runner({
    databaseUrl: ownerUrl,
    dir: folder,
    direction: 'up',
    migrationsTable: 'migration',
    checkOrder: true,
    log: () => undefined,
  });
  return done.length;
}
