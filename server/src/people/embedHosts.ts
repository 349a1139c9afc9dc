import { type Db, maybe } from '../platform/database.ts';

/** The sites whose pages may be shown inside ours. */
export async function listEmbedHosts(db: Db): Promise<readonly string[]> {
  return (await maybe<{ embed_hosts: string[] }>(db, 'select embed_hosts from school'))?.embed_hosts ?? [];
}
