import type { OwnSession } from '@rosemary/api';
import Bowser from 'bowser';
import { createHash } from 'node:crypto';
import { rows, run, type Db } from '../platform/database.ts';

/** A name for a session that opens nothing: whoever reads it cannot take it over. */
const nameOf = (sid: string): string => createHash('sha256').update(sid).digest('hex').slice(0, 16);

function browserInWords(agent: string | null): string {
  if (agent === null || agent === '') return 'A program that does not name itself';
  const { browser, os } = Bowser.parse(agent);
  return [browser.name ?? 'A browser', os.name === undefined ? '' : `on ${os.name}`].filter((part) => part !== '').join(' ');
}

/** Where somebody is signed in, the present session first. */
export async function listSessions(db: Db, personId: string, sid: string): Promise<OwnSession[]> {
  const found = await rows<{ sid: string; begun_at: string | null; browser: string | null; network: string | null; expire: Date }>(
    db,
    `select sid, sess ->> 'begunAt' as begun_at, sess ->> 'browser' as browser, sess ->> 'network' as network, expire
     from session where sess ->> 'personId' = $1 and expire > now() order by sid <> $2, expire desc`,
    [personId, sid],
  );
  return found.map((row) => ({
    id: nameOf(row.sid),
    browser: browserInWords(row.browser),
    network: row.network ?? '',
    begunAt: row.begun_at,
    endsAt: row.expire.toISOString(),
    isThis: row.sid === sid,
  }));
}

/** Ends every session of somebody but one. */
export const endOtherSessions = (db: Db, personId: string, sid: string): Promise<number> =>
  run(db, "delete from session where sess ->> 'personId' = $1 and sid <> $2", [personId, sid]);
