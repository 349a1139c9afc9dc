import { criterionPoints, formatPoints, mostOf, reachesSection, sumOfReview } from '@rosemary/core';
import { sendBytes, writeSheet, writeTable } from '../files/index.ts';
import type { MemberContext } from '../platform/route.ts';
import { seenBy } from './names.ts';
import { listNotesOf } from './reviewNotes.ts';
import { type PeerFacts, readPeer } from './readPeer.ts';
import { makeResults, type PeerResults } from './results.ts';
import type { ReviewRow } from './reviewRows.ts';

const ROLES = { peer: 'review', self: 'own work', teacher: 'teacher' } as const;

/** The reviews that somebody of the staff reaches: of works and by students of their sections. */
function reached(facts: PeerFacts, c: MemberContext<unknown>): readonly ReviewRow[] {
  const isReached = (id: string | null): boolean => id !== null && reachesSection(c.member, facts.people.get(id)?.sectionId ?? null);
  const works = new Set(facts.works.filter((w) => w.authors.some(isReached)).map((w) => w.id));
  return facts.reviews.filter((r) => works.has(r.workId) || isReached(r.enrolmentId));
}

type Line = (string | number | null)[];

/** Every review as a line: points and words by criterion, the words to the author, notes, answer, and what is worth a look. */
async function linesOf(c: MemberContext<unknown>, facts: PeerFacts, results: PeerResults): Promise<Line[]> {
  const seen = seenBy(facts);
  const reviews = reached(facts, c);
  const notes = await listNotesOf(
    c.db,
    reviews.map((r) => r.id),
  );
  const authors = new Map(facts.works.map((w) => [w.id, w.authors.map(seen.nameOf).join('; ')]));
  const { criteria } = facts.form;
  const heads = criteria.flatMap((one) => [
    ...(mostOf(one) > 0 ? [`${one.title} [points of ${formatPoints(mostOf(one))}]`] : []),
    `${one.title} [words]`,
  ]);
  return [
    [
      ...['Work of', 'Reviewer', 'Kind', 'State', 'Points on the form'],
      ...heads,
      ...['Words', 'Notes', 'Answer', 'Set aside', 'Worth a look', 'Reported'],
    ],
    ...reviews.map((r): Line => {
      const scores = results.scores.get(r.id);
      const judged = criteria.flatMap((one): Line => {
        const points = criterionPoints(one, r);
        return [...(mostOf(one) > 0 ? [points === null ? null : points / 1000] : []), r.comments[one.id] ?? ''];
      });
      const aside = r.setAsideAt === null ? '' : `${r.keepsCredit ? 'with credit' : 'without credit'}: ${r.setAsideWhy}`;
      return [
        ...[
          authors.get(r.workId) ?? '',
          r.enrolmentId === null ? 'teacher' : seen.nameOf(r.enrolmentId),
          ROLES[r.role],
          results.stateOf(r),
        ],
        ...[scores === undefined ? null : sumOfReview(scores) / 1000, ...judged, r.words],
        ...[(notes.get(r.id) ?? []).map((n) => `“${n.quote}” ${n.body}`).join('\n'), r.answer, aside],
        ...[(results.signs.get(r.id) ?? []).map((s) => s.text).join('; '), r.reportedWhy],
      ];
    }),
  ];
}

/** All reviews with their words, as CSV or as a spreadsheet. */
export async function sendReviews(c: MemberContext<unknown>, format: string): Promise<undefined> {
  const facts = await readPeer(c.db, c.courseId, c.params.itemId ?? '', c.now);
  const lines = await linesOf(c, facts, makeResults(facts, c.now));
  const title = `${facts.title}, reviews`;
  if (format === 'xlsx') {
    const mediaType = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
    sendBytes(await writeSheet('Reviews', lines), { name: `${title}.xlsx`, mediaType }, c.request, c.response);
  } else
    sendBytes(
      Buffer.from(writeTable(lines), 'utf8'),
      { name: `${title}.csv`, mediaType: 'text/csv; charset=utf-8' },
      c.request,
      c.response,
    );
  return undefined;
}
