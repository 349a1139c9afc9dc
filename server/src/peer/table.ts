import { countOf, criterionPoints, dayAndTime, formatPoints, mostOf, reachesSection, sumOfReview } from '@rosemary/core';
import { sendBytes, writeSheet, writeTable } from '../files/index.ts';
import { INK, makePaper, type Paper, setWorking, SOFT } from '../paper/index.ts';
import { notFound } from '../platform/errors.ts';
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

const readAll = async (c: MemberContext<unknown>): Promise<{ readonly facts: PeerFacts; readonly results: PeerResults }> => {
  const facts = await readPeer(c.db, c.courseId, c.params.itemId ?? '', c.now);
  return { facts, results: makeResults(facts, c.now) };
};

/** All reviews with their words, as CSV or as a spreadsheet. */
export async function sendReviews(c: MemberContext<unknown>, format: string): Promise<undefined> {
  const { facts, results } = await readAll(c);
  const lines = await linesOf(c, facts, results);
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

const MARGIN = 56;
const head = (paper: Paper, text: string): void => {
  paper.moveDown(0.9).font('bold').fontSize(12).fillColor(INK).text(text, MARGIN);
};
const soft = (paper: Paper, text: string): void => {
  paper.font('sans').fontSize(8.5).fillColor(SOFT).text(text, MARGIN);
};
const words = (paper: Paper, text: string): void => {
  if (text !== '') paper.font('text').fontSize(10).fillColor(INK).text(text, MARGIN);
};
/** One review on paper, whosever it is. */
function setReview(paper: Paper, facts: PeerFacts, title: string, r: ReviewRow, noteLines: readonly string[]): void {
  paper.moveDown(0.5).font('bold').fontSize(10).fillColor(INK).text(title, MARGIN);
  for (const criterion of (r.form ?? facts.form).criteria) {
    const points = criterionPoints(criterion, r);
    const level = criterion.levels.find((l) => l.id === r.choices[criterion.id]);
    const most = mostOf(criterion);
    const given = most === 0 || points === null ? '' : `${formatPoints(points)} of ${formatPoints(most)}`;
    soft(paper, [criterion.title, given, level?.descriptor ?? ''].filter((w) => w !== '').join(' · '));
    words(paper, r.comments[criterion.id] ?? '');
  }
  words(paper, r.words);
  for (const line of noteLines) words(paper, line);
  if (r.answer !== '') soft(paper, `Answered: ${r.answer}`);
  if (r.setAsideAt !== null) soft(paper, `Set aside ${r.keepsCredit ? 'with credit' : 'without credit'}: ${r.setAsideWhy}`);
}

/** What one student gave and got, with the working of both results, as a PDF. */
export async function sendPaper(c: MemberContext<unknown>): Promise<undefined> {
  const { facts, results } = await readAll(c);
  const seen = seenBy(facts);
  const enrolmentId = seen.behind(c.params.enrolmentId ?? '');
  const person = facts.people.get(enrolmentId);
  if (!reachesSection(c.member, person?.sectionId ?? null)) throw notFound();
  const work = facts.workOf.get(enrolmentId);
  const isIn = (r: ReviewRow): boolean => r.handedInAt !== null;
  const got = facts.reviews.filter((r) => r.workId === work?.id && isIn(r) && (r.role !== 'self' || r.enrolmentId === enrolmentId));
  const gave = facts.reviews.filter((r) => r.enrolmentId === enrolmentId && r.role === 'peer');
  const notes = await listNotesOf(
    c.db,
    [...got, ...gave].map((r) => r.id),
  );
  const noteLines = (r: ReviewRow): string[] => (notes.get(r.id) ?? []).map((n) => `“${n.quote}” ${n.body}`);
  const name = seen.nameOf(enrolmentId);
  const [ofWork, ofReviewing] = [work === undefined ? null : results.workResult(work.id), results.reviewing(enrolmentId).result];
  const bytes = await makePaper(`${facts.title}, ${name}`, MARGIN, (paper) => {
    paper.addPage();
    paper.font('bold').fontSize(16).fillColor(INK).text(facts.title, MARGIN);
    soft(paper, `${name} · reviews as they stand ${dayAndTime(c.now, facts.facts.zone, c.now)}`);
    head(paper, 'The work');
    if (work === undefined) words(paper, 'Nothing was handed in.');
    if (ofWork !== null) setWorking(paper, [ofWork.working], MARGIN);
    for (const r of got) {
      const by = r.role === 'teacher' ? 'The teacher' : r.role === 'self' ? 'Their own assessment' : seen.nameOf(r.enrolmentId ?? '');
      setReview(paper, facts, by, r, noteLines(r));
    }
    head(paper, `The reviewing: ${countOf(gave.filter(isIn).length, 'review')} of ${gave.length} given`);
    if (ofReviewing !== null) setWorking(paper, [ofReviewing.working], MARGIN);
    for (const r of gave) {
      const authors = facts.works.find((w) => w.id === r.workId)?.authors.map(seen.nameOf) ?? [];
      if (isIn(r)) setReview(paper, facts, `On the work of ${authors.join('; ')}`, r, noteLines(r));
      else soft(paper, `On the work of ${authors.join('; ')}: not given`);
    }
  });
  sendBytes(bytes, { name: `${facts.title}, ${name}.pdf`, mediaType: 'application/pdf' }, c.request, c.response);
  return undefined;
}
