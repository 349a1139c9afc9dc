import { oneLine } from './take.ts';
import { NOTICE_KINDS, type NoticeChoice, type NoticeKind, type NoticesView, type OutboxMail } from '@rosemary/api';
import { type Db, rows, run } from '../platform/database.ts';

/** How one is told where nothing was chosen: always here, and by mail of what a teacher announces. */
const USUAL: Readonly<Record<NoticeKind, Omit<NoticeChoice, 'kind'>>> = {
  announcement: { isShown: true, isMailed: true },
  reply: { isShown: true, isMailed: false },
  returned: { isShown: true, isMailed: false },
  review: { isShown: true, isMailed: true },
  message: { isShown: true, isMailed: true },
};

export interface Telling {
  readonly courseId: string;
  readonly personIds: readonly string[];
  readonly kind: NoticeKind;
  readonly words: string;
  /** What a mail says more. */
  readonly body: string;
  readonly path: string;
  readonly at: number;
}

/** Tells people of something: in the application, by mail, or not at all, as each of them chose. */
export async function tell(db: Db, telling: Telling): Promise<void> {
  const { kind, personIds, courseId, words, body, path, at } = telling;
  const usual = USUAL[kind];
  await run(
    db,
    `
    insert into notice (person_id, course_id, kind, words, path, at)
    select t.id, $2, $3, $4, $5, to_timestamp($6 / 1000.0) from unnest($1::uuid[]) as t(id) left join notice_choice c on c.person_id = t.id and c.kind = $3
    where coalesce(c.is_shown, $7)`,
    [personIds, courseId, kind, words, path, at, usual.isShown],
  );
  await run(
    db,
    `
    insert into outbox (person_id, address, subject, body, at)
    select p.id, p.email, coalesce(nullif(k.short_title, ''), k.title) || ': ' || $4, $8, to_timestamp($6 / 1000.0)
    from unnest($1::uuid[]) as t(id) join person p on p.id = t.id join course k on k.id = $2 left join notice_choice c on c.person_id = t.id and c.kind = $3
    where coalesce(c.is_mailed, $7) and $5 <> ''`,
    [personIds, courseId, kind, oneLine(words), path, at, usual.isMailed, body],
  );
}

const LATEST = 60;

export async function getNotices(db: Db, personId: string): Promise<NoticesView> {
  const found = await rows<{ id: string; kind: NoticeKind; words: string; course: string; path: string; at: Date; seen_at: Date | null }>(
    db,
    `
    select n.id::text, n.kind, n.words, coalesce(nullif(c.short_title, ''), c.title) as course, n.path, n.at, n.seen_at
    from notice n join course c on c.id = n.course_id where n.person_id = $1 order by n.id desc limit ${LATEST}`,
    [personId],
  );
  const choices = await rows<{ kind: NoticeKind; is_shown: boolean; is_mailed: boolean }>(
    db,
    'select kind, is_shown, is_mailed from notice_choice where person_id = $1',
    [personId],
  );
  return {
    notices: found.map((n) => ({
      id: n.id,
      kind: n.kind,
      words: n.words,
      course: n.course,
      path: n.path,
      at: n.at.toISOString(),
      isSeen: n.seen_at !== null,
    })),
    unseen: found.filter((n) => n.seen_at === null).length,
    choices: NOTICE_KINDS.map((kind) => {
      const own = choices.find((c) => c.kind === kind);
      return own === undefined ? { kind, ...USUAL[kind] } : { kind, isShown: own.is_shown, isMailed: own.is_mailed };
    }),
  };
}

export async function setSeen(db: Db, personId: string, now: number): Promise<void> {
  await run(db, 'update notice set seen_at = to_timestamp($2 / 1000.0) where person_id = $1 and seen_at is null', [personId, now]);
}

export async function setChoice(db: Db, personId: string, choice: NoticeChoice): Promise<void> {
  await run(
    db,
    `
    insert into notice_choice (person_id, kind, is_shown, is_mailed) values ($1, $2, $3, $4)
    on conflict (person_id, kind) do update set is_shown = excluded.is_shown, is_mailed = excluded.is_mailed`,
    [personId, choice.kind, choice.isShown, choice.isMailed],
  );
}

export async function listOutbox(db: Db): Promise<OutboxMail[]> {
  const found = await rows<{ id: string; address: string; subject: string; body: string; at: Date }>(
    db,
    'select m.id::text, m.address, m.subject, m.body, m.at from outbox m order by m.id desc limit 200',
  );
  return found.map((m) => ({ id: m.id, to: m.address, subject: m.subject, body: m.body, at: m.at.toISOString() }));
}
