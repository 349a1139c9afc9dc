import type { AttemptView, LinkCopy } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { type FileRow, fileView } from '../files/index.ts';
import { type Db, rows } from '../platform/database.ts';

interface AttemptRow {
  id: string;
  number: number;
  document: DocumentNode | null;
  word_count: number;
  content_hash: string;
  handed_in_at: Date;
  note: string;
  link: string;
  by: string | null;
  files: FileRow[];
  copy: CopyRow | null;
}

interface CopyRow {
  state: LinkCopy['state'];
  said: string;
  tried_at: string;
  title: string;
  document: DocumentNode | null;
  file: FileRow | null;
}

const copyView = (copy: CopyRow): LinkCopy => ({
  state: copy.state,
  said: copy.said,
  triedAt: new Date(copy.tried_at).toISOString(),
  title: copy.title,
  document: copy.document,
  file: copy.file === null ? null : fileView(copy.file),
});

/** The attempts of one student at one item, the latest first; lateness is added by the caller, who knows the dates. */
export async function listAttempts(db: Db, itemId: string, enrolmentId: string): Promise<AttemptView[]> {
  const found = await rows<AttemptRow>(
    db,
    `
    select a.id, a.number, a.document, a.word_count, a.content_hash, a.handed_in_at, a.note, a.link, case when a.handed_in_by <> e.person_id then p.given_name || ' ' || p.family_name end as by,
           coalesce((select json_agg(json_build_object('id', f.id, 'course_id', f.course_id, 'name', f.name, 'size', b.size, 'media_type', b.media_type) order by af.position, f.created_at)
                     from attempt_file af join file f on f.id = af.file_id join file_blob b on b.sha256 = f.sha256 where af.attempt_id = a.id), '[]') as files,
           (select json_build_object('state', c.state, 'said', c.said, 'tried_at', c.tried_at, 'title', c.title, 'document', c.document,
                     'file', case when f.id is not null then json_build_object('id', f.id, 'course_id', f.course_id, 'name', f.name, 'size', b.size, 'media_type', b.media_type) end)
            from link_copy c left join file f on f.id = c.file_id left join file_blob b on b.sha256 = f.sha256 where c.attempt_id = coalesce(a.lead_id, a.id)) as copy
    from attempt a join submission s on s.id = a.submission_id join enrolment e on e.id = s.enrolment_id join person p on p.id = a.handed_in_by where s.item_id = $1 and s.enrolment_id = $2 order by a.number desc`,
    [itemId, enrolmentId],
  );
  return found.map((row) => ({
    id: row.id,
    number: row.number,
    document: row.document,
    wordCount: row.word_count,
    contentHash: row.content_hash,
    handedInAt: row.handed_in_at.toISOString(),
    note: row.note,
    link: row.link,
    linkCopy: row.copy === null ? null : copyView(row.copy),
    by: row.by,
    files: row.files.map(fileView),
    lateText: null,
  }));
}
