import { countOf, criterionPoints, dayAndTime, formatPoints, mostOf, reachesSection } from '@rosemary/core';
import { sendBytes } from '../files/index.ts';
import { INK, makePaper, type Paper, setWorking, SOFT } from '../paper/index.ts';
import { notFound } from '../platform/errors.ts';
import type { MemberContext } from '../platform/route.ts';
import { seenBy } from './names.ts';
import { listNotesOf } from './reviewNotes.ts';
import { type PeerFacts, readPeer } from './readPeer.ts';
import { makeResults } from './results.ts';
import type { ReviewRow } from './reviewRows.ts';

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
  const facts = await readPeer(c.db, c.courseId, c.params.itemId ?? '', c.now);
  const results = makeResults(facts, c.now);
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
