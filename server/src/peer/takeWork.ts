import { BLOCK_DEFAULTS, type CourseFile, type SampleSource } from '@rosemary/api';
import { type DocumentNode, filesIn } from '@rosemary/core';
import { findFile } from '../files/index.ts';
import { rewrite } from '../items/index.ts';
import { keepBareCopy } from '../openFile/index.ts';
import { addSample } from '../peerSetting/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';

/** A work can be taken where its result is out, so that nobody’s name is hidden from whoever takes it, and from courses they teach. */
const SOURCES = `
  from enrolment me join course c on c.id = me.course_id join term t on t.id = c.term_id join item i on i.course_id = c.id and i.removed_at is null
  join submission s on s.item_id = i.id
  join lateral (select a.id, a.document, a.word_count from attempt a where a.submission_id = s.id and a.lead_id is null order by a.number desc limit 1) a on true
  join enrolment e on e.id = s.enrolment_id and not e.is_sample join person p on p.id = e.person_id
  join grade_column k on k.item_id = i.id and k.role = 'work' and k.removed_at is null join grade g on g.column_id = k.id and g.enrolment_id = e.id and g.is_released
  cross join lateral (select not exists (select 1 from attempt m left join work_leave l on l.submission_id = m.submission_id
    where coalesce(m.lead_id, m.id) = a.id and l.to_later is not true) as given) leave
  where me.person_id = $1 and me.role = 'instructor' and me.withdrawn_at is null and c.id <> $2`;

/** Works of other courses of a teacher that could be samples, by a word of their title or author: those with leave first, then the best. */
export const listSources = (db: Db, personId: string, courseId: string, text: string): Promise<SampleSource[]> =>
  rows<SampleSource & Record<string, unknown>>(
    db,
    `select s.id as "submissionId", c.code || ' ' || c.run as course, i.title as "itemTitle", p.given_name || ' ' || p.family_name as author,
       (g.raw * 1000)::int as result, (k.possible * 1000)::int as possible, a.word_count as "wordCount",
       (select count(*)::int from attempt_file f where f.attempt_id = a.id) as files, leave.given as "hasLeave" ${SOURCES}
       and ($3 = '' or strpos(lower(i.title || ' ' || c.code || ' ' || p.given_name || ' ' || p.family_name), lower($3)) > 0)
     order by leave.given desc, t.starts_on desc, g.raw / nullif(k.possible, 0) desc nulls last, i.title, p.family_name, s.id limit 40`,
    [personId, courseId, text.trim()],
  );

interface Found {
  id: string;
  course_id: string;
  course: string;
  title: string;
  document: DocumentNode | null;
  given: boolean;
  files: string[];
}

const shownIn = (file: CourseFile): DocumentNode => {
  const { id: fileId, url: src, name, mediaType } = file;
  if (mediaType.startsWith('image/')) return { type: 'picture', attrs: { fileId, src, alt: 'A picture handed in with the work' } };
  if (/^(audio|video)\//.test(mediaType))
    return {
      type: 'media',
      attrs: { ...BLOCK_DEFAULTS.media, kind: mediaType.startsWith('audio/') ? 'audio' : 'video', fileId, src, title: name },
    };
  return { type: 'fileShown', attrs: { fileId, src, name, mediaType } };
};

/**
 * Takes a work of another course as a sample: its text and its files, as copies without what they say of their maker. Names within the
 * text are for the teacher to delete, who reads it first: students see nothing before it is assessed.
 */
export async function takeWork(
  db: Db,
  courseId: string,
  itemId: string,
  wish: { readonly submissionId: string; readonly saysLeave: boolean },
  personId: string,
  now: number,
): Promise<string> {
  const found = await maybe<Found & Record<string, unknown>>(
    db,
    `select a.id, c.id as course_id, c.code || ' ' || c.run as course, i.title, a.document, leave.given, coalesce((select array_agg(f.file_id order by f.position) from attempt_file f where f.attempt_id = a.id), '{}') as files ${SOURCES} and s.id = $3`,
    [personId, courseId, wish.submissionId],
  );
  if (found === null) throw notFound();
  if (!found.given && !wish.saysLeave)
    throw new AppError(
      'not-now',
      'Its author has not given leave here to show it to later classes. Ask them, or say that you have their leave.',
    );
  const inText = filesIn(found.document);
  const copies = new Map<string, CourseFile>();
  for (const [n, fileId] of [...inText, ...found.files].entries()) {
    const file = await findFile(db, found.course_id, fileId);
    if (file !== null)
      copies.set(fileId, await keepBareCopy(db, file, { courseId, ownerId: personId, name: `Sample work, file ${n + 1}`, now }));
  }
  const renamed = new Map([...copies].map(([old, file]) => [old, file.id]));
  const text = found.document === null ? [] : (rewrite(found.document, found.course_id, courseId, renamed, new Map()).content ?? []);
  const blocks = [...text, ...found.files.flatMap((id) => copies.get(id) ?? []).map(shownIn)];
  const document: DocumentNode = { type: 'doc', content: blocks.length === 0 ? [{ type: 'paragraph' }] : blocks };
  const taken = { submissionId: wish.submissionId, leave: found.given ? ('authors' as const) : ('teacher' as const) };
  return addSample(db, courseId, itemId, `From “${found.title}”`.slice(0, 200), document, taken, now);
}
