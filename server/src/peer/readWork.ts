import type { ReadWorkView } from '@rosemary/api';
import { type DocumentNode, plainText, wordCount } from '@rosemary/core';
import { type FileRow, fileView } from '../files/index.ts';
import { loadQuestions, questionsOf, type StoredPaper } from '../kinds/quiz/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
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

async function readAttempt(db: Db, { submissionId, attemptId, isNamed, urlOfFile }: Reading): Promise<ReadWorkView | null> {
  const attempt = await maybe<AttemptRow & Record<string, unknown>>(
    db,
    `select a.id, a.document, a.word_count, a.link,
       coalesce((select json_agg(json_build_object('id', f.id, 'course_id', f.course_id, 'name', f.name, 'size', b.size, 'media_type', b.media_type) order by af.position, f.created_at)
                 from attempt_file af join file f on f.id = af.file_id join file_blob b on b.sha256 = f.sha256 where af.attempt_id = a.id), '[]') as files
     from attempt a where a.id = coalesce($1, (select coalesce(l.lead_id, l.id) from attempt l where l.submission_id = $2 order by l.number desc limit 1))`,
    [attemptId, submissionId],
  );
  if (attempt === null) return null;
  return {
    ...{ attemptId: attempt.id, document: attempt.document, wordCount: attempt.word_count, link: attempt.link },
    files: attempt.files.map((row, n) => {
      const file = fileView(row);
      const name = isNamed ? file.name : `File ${n + 1}${/\.[a-z0-9]{1,5}$/i.exec(file.name)?.[0].toLowerCase() ?? ''}`;
      return { ...file, name, url: urlOfFile(file.id) };
    }),
  };
}

const heading = (text: string): DocumentNode => ({ type: 'heading', attrs: { level: 3 }, content: [{ type: 'text', text }] });
/** A work that is no attempt: pieces of text one after the other. */
const inPieces = (content: readonly DocumentNode[], words: readonly (DocumentNode | null)[]): ReadWorkView => ({
  ...{ attemptId: null, document: { type: 'doc', content }, link: '', files: [] },
  wordCount: words.reduce((sum, document) => sum + wordCount(plainText(document)), 0),
});

/** All that one student wrote in a discussion, in its order; null where they wrote nothing. */
async function readPosts(db: Db, submissionId: string): Promise<ReadWorkView | null> {
  const posts = await rows<{ title: string; document: DocumentNode }>(
    db,
    `select o.title, o.document from submission s join post o on o.item_id = s.item_id and o.enrolment_id = s.enrolment_id
     where s.id = $1 and o.removed_at is null and o.hidden_at is null order by o.created_at, o.id`,
    [submissionId],
  );
  if (posts.length === 0) return null;
  const content = posts.flatMap((post) => [
    heading(post.title === '' ? 'In answer to others' : post.title),
    ...(post.document.content ?? []),
  ]);
  return inPieces(
    content,
    posts.map((p) => p.document),
  );
}

/** The essays of the attempt that somebody handed in last, each under its question; null where there is none. */
async function readEssays(db: Db, submissionId: string): Promise<ReadWorkView | null> {
  const attempt = await maybe<{ id: string; paper: StoredPaper }>(
    db,
    `select a.id, a.paper from submission s join quiz_attempt a on a.item_id = s.item_id and a.enrolment_id = s.enrolment_id and a.state = 'handed in' where s.id = $1 order by a.number desc limit 1`,
    [submissionId],
  );
  if (attempt === null) return null;
  const asked = questionsOf(attempt.paper);
  const questionOf = await loadQuestions(db, asked);
  const answers = new Map(
    (
      await rows<{ question_id: string; document: DocumentNode | null }>(
        db,
        "select question_id, answer -> 'document' as document from quiz_answer where attempt_id = $1",
        [attempt.id],
      )
    ).map((row) => [row.question_id, row.document]),
  );
  const essays = asked.flatMap((q) => {
    const { content } = questionOf(q);
    return content.key.kind === 'essay' ? [{ words: content.words, answer: answers.get(q.questionId) ?? null }] : [];
  });
  const NOTHING: DocumentNode = { type: 'paragraph', content: [{ type: 'text', text: 'Nothing was written here.' }] };
  const content = essays.flatMap(({ words, answer }, n) => [
    heading(`Question ${n + 1}`),
    { type: 'blockquote', content: words.content ?? [] },
    ...(answer?.content ?? [NOTHING]),
  ]);
  return inPieces(
    content,
    essays.map((e) => e.answer),
  );
}

/** A work as it is read by other students: without its author’s name in its files where names are hidden. */
export async function readWork(db: Db, reading: Reading): Promise<ReadWorkView> {
  const found =
    (await readAttempt(db, reading)) ?? (await readPosts(db, reading.submissionId)) ?? (await readEssays(db, reading.submissionId));
  if (found === null) throw notFound();
  return found;
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
