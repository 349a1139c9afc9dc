import { type Db, rows } from '../platform/database.ts';

/** A file of an attempt, with what its bytes are found by. */
export interface AttemptFile {
  readonly id: string;
  readonly name: string;
  readonly media_type: string;
  readonly size: string;
  readonly sha256: Buffer;
}

/** The files of an attempt, in the order they were put in. */
export const listAttemptFiles = (db: Db, attemptId: string): Promise<readonly AttemptFile[]> =>
  rows<AttemptFile>(
    db,
    `select f.id, f.name, b.media_type, b.size, b.sha256 from attempt_file af join file f on f.id = af.file_id join file_blob b on b.sha256 = f.sha256
     where af.attempt_id = $1 order by af.position, f.created_at`,
    [attemptId],
  );
