import type { FairnessView } from '@rosemary/api';
import { iccRotating, iccSame, limitsOfAgreement, markingDrift, type RubricCriterion, rubricScore, weightedKappa } from '@rosemary/core';
import { findVeil, veiledId, veiledName } from '../anonymity/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { findRubricInUse } from '../rubric/index.ts';

interface PairRow {
  enrolment_id: string;
  name: string;
  marks: { marker: string; markerId: string; choices: Record<string, string>; given: Record<string, number>; score: number | null }[];
  agreed: number | null;
}

/** Works that two have marked, each once: of a group the one whose attempt leads. */
const listPairs = (db: Db, itemId: string): Promise<PairRow[]> =>
  rows<PairRow>(
    db,
    `
    select s.enrolment_id, p.given_name || ' ' || p.family_name as name, (g.raw * 1000)::int as agreed,
      (select json_agg(json_build_object('marker', mp.given_name || ' ' || mp.family_name, 'markerId', m.marker_id, 'choices', m.choices, 'given', m.given, 'score', (m.score * 1000)::int) order by m.slot)
       from mark m join person mp on mp.id = m.marker_id where m.submission_id = s.id and m.slot > 1 and m.state = 'finished') as marks
    from submission s join enrolment e on e.id = s.enrolment_id join person p on p.id = e.person_id left join work_grade g on g.item_id = s.item_id and g.enrolment_id = s.enrolment_id
    where s.item_id = $1 and (select count(*) from mark m where m.submission_id = s.id and m.slot > 1 and m.state = 'finished') = 2
      and not exists (select 1 from attempt a where a.submission_id = s.id and a.lead_id is not null) order by p.family_name, p.given_name`,
    [itemId],
  );

function agreementByCriterion(criteria: readonly RubricCriterion[], pairs: readonly PairRow[]): FairnessView['criteria'] {
  return criteria
    .filter((c) => c.form !== 'comment' && c.form !== 'count' && c.levels.length >= 2)
    .map((c) => {
      const place = (choices: Record<string, string>): number => c.levels.findIndex((l) => l.id === choices[c.id]);
      const both = pairs
        .map((p) => [place(p.marks[0]?.choices ?? {}), place(p.marks[1]?.choices ?? {})] as const)
        .filter(([a, b]) => a >= 0 && b >= 0);
      return { title: c.title, kappa: weightedKappa(both, c.levels.length), pairs: both.length };
    });
}

interface TimedRow {
  name: string;
  at: Date;
  share: number;
}

/** Every mark each marker has finished of this item, as a share of its points, in the order they were finished. */
async function listDrifts(
  db: Db,
  itemId: string,
  criteria: readonly RubricCriterion[],
  possible: number,
): Promise<FairnessView['markers']> {
  const found = await rows<{
    name: string;
    at: Date;
    choices: Record<string, string>;
    given: Record<string, number>;
    score: number | null;
  }>(
    db,
    `select p.given_name || ' ' || p.family_name as name, m.finished_at as at, m.choices, m.given, (m.score * 1000)::int as score from mark m join submission s on s.id = m.submission_id join person p on p.id = m.marker_id
     where s.item_id = $1 and m.state = 'finished' and m.finished_at is not null and not exists (select 1 from attempt a where a.submission_id = s.id and a.lead_id is not null)
       and (m.slot > 1 or not exists (select 1 from mark o where o.submission_id = s.id and o.slot > 1)) order by m.finished_at`,
    [itemId],
  );
  const marks = found.map((row): TimedRow => ({
    name: row.name,
    at: row.at,
    share: (row.score ?? rubricScore(criteria, row.choices, row.given).score) / possible,
  }));
  const percent = (share: number): number => Math.round(share * 1000) / 10;
  return [...new Set(marks.map((m) => m.name))].sort().map((name) => {
    const own = marks.filter((m) => m.name === name);
    const drift = markingDrift(own.map((m) => ({ at: m.at.getTime(), share: m.share })));
    return {
      name,
      marks: own.length,
      meanPercent: own.length === 0 ? null : percent(own.reduce((s, m) => s + m.share, 0) / own.length),
      parts: (drift?.parts ?? []).map((p) => ({
        number: p.number,
        meanPercent: percent(p.mean),
        from: new Date(p.from).toISOString(),
        to: new Date(p.to).toISOString(),
      })),
      changePercent: drift === null ? null : percent(drift.change),
    };
  });
}

/** How far two markers agree at an item, and how each marks as the evening goes on; with the works the figures are made from. */
export async function makeFairness(db: Db, courseId: string, itemId: string, now: number): Promise<FairnessView> {
  const item = await maybe<{ possible: number }>(
    db,
    'select (possible * 1000)::int as possible from graded_item where id = $1 and course_id = $2 and removed_at is null',
    [itemId, courseId],
  );
  if (item === null) throw notFound();
  const criteria = (await findRubricInUse(db, itemId))?.criteria ?? [];
  const found = await listPairs(db, itemId);
  const veil = await findVeil(db, itemId, now);
  const nameOf = (row: PairRow): string =>
    veil === null || !veil.isHidden(row.enrolment_id) ? row.name : `Work ${veiledName(veiledId(veil.key, row.enrolment_id))}`;
  const totalOf = (m: PairRow['marks'][number] | undefined): number =>
    m === undefined ? 0 : (m.score ?? rubricScore(criteria, m.choices, m.given).score);
  const pairs = found.map((row) => ({
    work: nameOf(row),
    first: row.marks[0]?.marker ?? '',
    firstTotal: totalOf(row.marks[0]),
    second: row.marks[1]?.marker ?? '',
    secondTotal: totalOf(row.marks[1]),
    agreed: row.agreed,
  }));
  // The same two throughout, whichever slot each took.
  const who = new Set(
    found.map((row) =>
      row.marks
        .map((m) => m.markerId)
        .sort()
        .join(' '),
    ),
  );
  const isSame = who.size === 1;
  const firstId = found[0]?.marks[0]?.markerId;
  const ratings = found.map((row) => {
    const [a, b] = [totalOf(row.marks[0]), totalOf(row.marks[1])];
    return isSame && row.marks[0]?.markerId !== firstId ? [b, a] : [a, b];
  });
  const icc = isSame ? iccSame(ratings) : iccRotating(ratings);
  return {
    pairs: [...pairs].sort(
      (a, b) => Math.abs(b.firstTotal - b.secondTotal) - Math.abs(a.firstTotal - a.secondTotal) || a.work.localeCompare(b.work),
    ),
    icc: icc === null ? null : { ...icc, kind: isSame ? 'same' : 'rotating' },
    limits: isSame ? limitsOfAgreement(ratings.map(([a, b]) => [(a ?? 0) / 1000, (b ?? 0) / 1000] as const)) : null,
    criteria: agreementByCriterion(criteria, found),
    markers: item.possible === 0 ? [] : await listDrifts(db, itemId, criteria, item.possible),
    possible: item.possible,
  };
}
