import type { ReadWorkView } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { type FileRow, fileView } from '../files/index.ts';
import { type Db, maybe } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

interface AttemptRow {
  id: string;
  document: DocumentNode | null;
  word_count: number;
  link: string;
  files: FileRow[];
}

/** Which work is read and how: at one attempt, or at the one handed in last where none is named. */
export interface Reading {
  readonly submissionId: string;
  readonly attemptId: string | null;
  /** Files keep the names that their author gave them. */
  readonly isNamed: boolean;
  readonly urlOfFile: (fileId: string) => string;
}

/** A work as it is read by other students: without its author’s name in its files where names are hidden. */
export async function readWork(db: Db, { submissionId, attemptId, isNamed, urlOfFile }: Reading): Promise<ReadWorkView> {
  const attempt = await maybe<AttemptRow & Record<string, unknown>>(
    db,
    `select a.id, a.document, a.word_count, a.link,
       coalesce((select json_agg(json_build_object('id', f.id, 'course_id', f.course_id, 'name', f.name, 'size', b.size, 'media_type', b.media_type) order by af.position, f.created_at)
                 from attempt_file af join file f on f.id = af.file_id join file_blob b on b.sha256 = f.sha256 where af.attempt_id = a.id), '[]') as files
     from attempt a where a.id = coalesce($1, (select coalesce(l.lead_id, l.id) from attempt l where l.submission_id = $2 order by l.number desc limit 1))`,
    [attemptId, submissionId],
  );
  if (attempt === null) throw notFound();
  return {
    ...{ attemptId: attempt.id, document: attempt.document, wordCount: attempt.word_count, link: attempt.link },
    files: attempt.files.map((row, n) => {
      const file = fileView(row);
      const name = isNamed ? file.name : `File ${n + 1}${/\.[a-z0-9]{1,5}$/i.exec(file.name)?.[0].toLowerCase() ?? ''}`;
      return { ...file, name, url: urlOfFile(file.id) };
    }),
  };
}

/** The text that was reviewed and the one that was handed in since. */
export async function readTexts(
  db: Db,
  beforeId: string,
  afterId: string,
): Promise<{ readonly before: DocumentNode | null; readonly after: DocumentNode | null; readonly number: number } | null> {
  return maybe<{ before: DocumentNode | null; after: DocumentNode | null; number: number }>(
    db,
    'select b.document as before, a.document as after, b.number from attempt b cross join attempt a where b.id = $1 and a.id = $2',
    [beforeId, afterId],
  );
}
