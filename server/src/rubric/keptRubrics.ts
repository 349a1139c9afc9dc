import { type KeptRubric, keptRubricChange, newKeptRubric } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { type Db, rows, run } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { implement, type PersonContext, type Route } from '../platform/route.ts';

const MOST = 200;

/** One's own rubrics, and those others share. */
async function listKept(db: Db, personId: string): Promise<KeptRubric[]> {
  return rows<KeptRubric>(
    db,
    `
    select k.id, k.title, k.criteria, k.is_shared as "isShared", k.owner_id = $1 as "isOwn", p.given_name || ' ' || p.family_name as owner
    from kept_rubric k join person p on p.id = k.owner_id where k.removed_at is null and (k.owner_id = $1 or k.is_shared)
    order by k.owner_id <> $1, lower(k.title), k.id limit ${MOST}`,
    [personId],
  );
}

/** A student keeps no rubrics; whoever teaches somewhere does, each their own. */
function requireTeaching(person: { readonly memberships: readonly { readonly role: string; readonly isActive: boolean }[] }): void {
  if (!person.memberships.some((m) => m.isActive && m.role !== 'student'))
    throw new AppError('refused', 'Rubrics are kept by those who teach.');
}

async function changeOwn(db: Db, personId: string, id: string, sql: string, values: readonly unknown[]): Promise<void> {
  if ((await run(db, `update kept_rubric set ${sql} where id = $1 and owner_id = $2`, [id, personId, ...values])) === 0) throw notFound();
}

async function setKept({ db, person, params }: PersonContext<unknown, { readonly rubricId: string }>, removedAt: number | null) {
  requireTeaching(person);
  await changeOwn(db, person.personId, params.rubricId, 'removed_at = to_timestamp($3 / 1000.0)', [removedAt]);
  return listKept(db, person.personId);
}

export const keptRubricRoutes: readonly Route[] = [
  implement(api.listKeptRubrics, ({ db, person }) => {
    requireTeaching(person);
    return listKept(db, person.personId);
  }),
  implement(api.keepRubric, newKeptRubric, async ({ db, person, body, now }) => {
    requireTeaching(person);
    await run(
      db,
      'insert into kept_rubric (id, owner_id, title, criteria, created_at) values ($1, $2, $3, $4, to_timestamp($5 / 1000.0)) on conflict (id) do nothing',
      [body.id, person.personId, body.title, JSON.stringify(body.criteria), now],
    );
    return listKept(db, person.personId);
  }),
  implement(api.changeKeptRubric, keptRubricChange, async ({ db, person, body, params }) => {
    requireTeaching(person);
    await changeOwn(db, person.personId, params.rubricId, 'title = coalesce($3, title), is_shared = coalesce($4, is_shared)', [
      body.title ?? null,
      body.isShared ?? null,
    ]);
    return listKept(db, person.personId);
  }),
  implement(api.removeKeptRubric, (c) => setKept(c, c.now)),
  implement(api.restoreKeptRubric, (c) => setKept(c, null)),
];
