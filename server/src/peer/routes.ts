import {
  closingWord,
  newSample,
  ownLeave,
  peerChange,
  peerDraw,
  peerPairing,
  pointAnswer,
  reviewAnswer,
  reviewChange,
  reviewHandIn,
  reviewNoteChange,
  rubricChange,
  sampleChange,
  sampleRemoval,
  settingAside,
  showingWork,
  teacherAssessment,
} from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import type { DocumentNode } from '@rosemary/core';
import { findFile, sendFile } from '../files/index.ts';
import { setRevisionsAfterReviews } from '../handIn/index.ts';
import { sendBareFile } from '../openFile/index.ts';
import { addSample, findPeer, saveClosing, savePeer, savePeerForm, saveSample, setSampleRemoved } from '../peerSetting/index.ts';
import type { Db } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { announce } from '../platform/events.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { listStrictness, makeBoard, makePeerWork, makeReviewerWorking, type Watching } from './board.ts';
import { draw, pair, undoDraw, unpair } from './draw.ts';
import { answerPoint, answerReview, assess, handInReview, saveKnown, saveReview, setAside } from './give.ts';
import { saveOwnLeave } from './leave.ts';
import { seenBy } from './names.ts';
import { getOwnPeer, getOwnReview } from './own.ts';
import { getReviewed } from './reviewed.ts';
import { readReviewing, requireOwn, type Reviewing } from './reviewing.ts';
import { compareOwnSample, getOwnSample, saveOwnSample } from './ownSample.ts';
import { viewSample } from './practise.ts';
import { readPeer } from './readPeer.ts';
import { recordPeerResults } from './results.ts';
import { listNotesOf, putNote } from './reviewNotes.ts';
import { getSettingView } from './settingView.ts';
import { readShown, showWork } from './showing.ts';
import { sendPaper } from './paper.ts';
import { sendReviews } from './table.ts';
import { listSources, takeWork } from './takeWork.ts';

const item = (c: MemberContext<unknown>): string => c.params.itemId ?? '';

/** An item of this course whose works can be reviewed, not in the bin. */
async function requireReviewed(c: MemberContext<unknown>): Promise<string> {
  return (await getReviewed(c.db, c.courseId, item(c), c.now)).item.id;
}

const watching = (c: MemberContext<unknown>): Watching => ({
  ...{ db: c.db, courseId: c.courseId, itemId: item(c), member: c.member, personId: c.person.personId, now: c.now },
});

const reviewing = (c: MemberContext<unknown>): Promise<Reviewing> => readReviewing(c.db, c.courseId, item(c), c.member, c.now);

/** Results that are out follow what is changed; before that nothing is in the ledger. */
async function follow(c: MemberContext<unknown>): Promise<void> {
  const peer = await findPeer(c.db, item(c));
  if (peer === null || peer.resultsOutAt === null) return;
  await recordPeerResults(c.db, c.courseId, await readPeer(c.db, c.courseId, item(c), c.now), c.person.personId, c.now);
}

/** Those who teach hear that a review came; students hear nothing, for the time would tell who it is from. */
const tellStaff = (db: Db, c: MemberContext<unknown>): Promise<void> =>
  announce(db, {
    topic: 'work',
    courseId: c.courseId,
    itemId: item(c),
    enrolmentId: null,
    rows: null,
    tab: null,
    by: '',
    hearers: 'staff',
  });

async function requireReviewedFile(c: MemberContext<unknown>): Promise<{ readonly isNamed: boolean }> {
  const found = await reviewing(c);
  const review = requireOwn(found, c.params.reviewId ?? '');
  // Whoever may not read the work yet may not read its files.
  const { work } = await getOwnReview(c.db, found, review.id);
  if (!work.files.some((file) => file.id === c.params.fileId)) throw notFound();
  return { isNamed: found.peer.showsAuthors || review.role === 'self' };
}

const EMPTY: DocumentNode = { type: 'doc', content: [{ type: 'paragraph' }] };

export const peerRoutes: readonly Route[] = [
  implement(api.getPeerSetting, async (c) => getSettingView(c.db, c.courseId, await requireReviewed(c), c.now)),
  implement(api.changePeerSetting, peerChange, async (c) => {
    const itemId = await requireReviewed(c);
    const before = await findPeer(c.db, itemId);
    await savePeer(c.db, c.courseId, itemId, c.body, c.now);
    const after = await findPeer(c.db, itemId);
    if (after !== null && after.resultsOutAt !== null && before?.revisionDueAt !== after.revisionDueAt)
      await setRevisionsAfterReviews(c.db, itemId, after.revisionDueAt, c.person.personId, c.now);
    await follow(c);
    return getSettingView(c.db, c.courseId, itemId, c.now);
  }),
  implement(api.changePeerForm, rubricChange, async (c) => {
    const itemId = await requireReviewed(c);
    await savePeerForm(c.db, c.courseId, itemId, c.body, c.now);
    await follow(c);
    return getSettingView(c.db, c.courseId, itemId, c.now);
  }),
  implement(api.getPeerBoard, (c) => makeBoard(watching(c))),
  implement(api.getPeerWork, (c) => makePeerWork(watching(c), c.params.workId)),
  implement(api.getReviewerWorking, (c) => makeReviewerWorking(watching(c), c.params.enrolmentId)),
  implement(api.getStrictness, async (c) => ({ effects: await listStrictness(watching(c)) })),
  implement(api.drawPeers, peerDraw, async (c) => {
    await draw(c.db, c.courseId, await requireReviewed(c), c.body, c.now);
    return makeBoard(watching(c));
  }),
  implement(api.undoPeerDraw, async (c) => {
    await undoDraw(c.db, await requireReviewed(c), c.params.drawId, c.now);
    return makeBoard(watching(c));
  }),
  implement(api.pairPeers, peerPairing, async (c) => {
    const itemId = await requireReviewed(c);
    const seen = seenBy(await readPeer(c.db, c.courseId, itemId, c.now));
    await pair(c.db, c.courseId, itemId, { ...c.body, reviewerId: seen.behind(c.body.reviewerId) }, c.now);
    return makeBoard(watching(c));
  }),
  implement(api.unpairPeers, async (c) => {
    await unpair(c.db, await requireReviewed(c), c.params.reviewId, c.now);
    return makeBoard(watching(c));
  }),
  implement(api.setReviewAside, settingAside, async (c) => {
    await setAside(c.db, await requireReviewed(c), c.params.reviewId, c.body, c.person.personId, c.now);
    await follow(c);
    return makeBoard(watching(c));
  }),
  implement(api.assessPeerWork, teacherAssessment, async (c) => {
    // Found first, so that nothing is written on a work of another item.
    await makePeerWork(watching(c), c.params.workId);
    await assess(c.db, await requireReviewed(c), c.params.workId, c.body, c.person.personId, c.now);
    await follow(c);
    return makePeerWork(watching(c), c.params.workId);
  }),
  implement(api.givePeerResults, async (c) => {
    const facts = await readPeer(c.db, c.courseId, await requireReviewed(c), c.now);
    if (!facts.peer.isOn || facts.peer.drawnAt === null)
      throw new AppError('not-now', 'No works are given out yet, so there are no results. Draw first who reviews whom.');
    await recordPeerResults(c.db, c.courseId, facts, c.person.personId, c.now);
    c.kick('follow-results');
    return makeBoard(watching(c));
  }),
  implement(api.getOwnPeer, async (c) => getOwnPeer(c.db, await reviewing(c))),
  implement(api.getOwnReview, async (c) => getOwnReview(c.db, await reviewing(c), c.params.reviewId)),
  implement(api.saveReview, reviewChange, async (c) => {
    const { db, params, body, now, member } = c;
    const saved = await saveKnown(db, params.reviewId, member.enrolmentId, body, now);
    return saved ?? saveReview(db, await reviewing(c), params.reviewId, body, now);
  }),
  implement(api.handInReview, reviewHandIn, async (c) => {
    await handInReview(c.db, await reviewing(c), c.params.reviewId, c.body.version, c.now);
    c.kick('follow-results');
    await tellStaff(c.db, c);
    return getOwnReview(c.db, await reviewing(c), c.params.reviewId);
  }),
  implement(api.putReviewNote, reviewNoteChange, async (c) => {
    const found = await reviewing(c);
    const own = await getOwnReview(c.db, found, c.params.reviewId);
    if (!own.door.isOpen) throw new AppError('not-now', 'The reviews were due, so this one stays as it was.');
    await putNote(c.db, own.id, own.work, c.params.noteId, c.body, c.now);
    return { notes: (await listNotesOf(c.db, [own.id])).get(own.id) ?? [] };
  }),
  implement(api.getReviewedFile, async (c) => {
    const { isNamed } = await requireReviewedFile(c);
    const file = await findFile(c.db, c.courseId, c.params.fileId);
    if (file === null) throw notFound();
    return isNamed ? sendFile(file, c.request, c.response) : sendBareFile(c.db, file, c.request, c.response);
  }),
  implement(api.answerReview, reviewAnswer, async (c) => {
    await answerReview(c.db, await reviewing(c), c.params.reviewId, c.body, c.now);
    await tellStaff(c.db, c);
    return getOwnPeer(c.db, await reviewing(c));
  }),
  implement(api.answerPoint, pointAnswer, async (c) => {
    await answerPoint(c.db, await reviewing(c), c.params.reviewId, c.body, c.now);
    return getOwnPeer(c.db, await reviewing(c));
  }),
  implement(api.listSampleSources, async (c) => {
    await requireReviewed(c);
    return { sources: await listSources(c.db, c.person.personId, c.courseId, c.query.text ?? '') };
  }),
  implement(api.addPeerSample, newSample, async (c) => {
    const itemId = await requireReviewed(c);
    const { from } = c.body;
    const made =
      from === null
        ? await addSample(c.db, c.courseId, itemId, 'A sample work', EMPTY, null, c.now)
        : await takeWork(c.db, c.courseId, itemId, from, c.person.personId, c.now);
    return viewSample(c.db, c.courseId, itemId, made, c.now);
  }),
  implement(api.getPeerSample, async (c) => viewSample(c.db, c.courseId, await requireReviewed(c), c.params.sampleId, c.now)),
  implement(api.changePeerSample, sampleChange, async (c) => {
    await saveSample(c.db, c.courseId, await requireReviewed(c), c.params.sampleId, c.body);
    return viewSample(c.db, c.courseId, item(c), c.params.sampleId, c.now);
  }),
  implement(api.removePeerSample, sampleRemoval, async (c) => {
    await setSampleRemoved(c.db, c.courseId, await requireReviewed(c), c.params.sampleId, c.body.isRemoved ? c.now : null);
    return getSettingView(c.db, c.courseId, item(c), c.now);
  }),
  implement(api.getOwnSample, async (c) => getOwnSample(c.db, await reviewing(c), c.params.sampleId)),
  implement(api.saveOwnSample, reviewChange, async (c) => saveOwnSample(c.db, await reviewing(c), c.params.sampleId, c.body, c.now)),
  implement(api.compareOwnSample, reviewHandIn, async (c) => {
    await compareOwnSample(c.db, await reviewing(c), c.params.sampleId, c.body.version, c.now);
    await tellStaff(c.db, c);
    return getOwnSample(c.db, await reviewing(c), c.params.sampleId);
  }),
  implement(api.setOwnLeave, ownLeave, async (c) => {
    await saveOwnLeave(c.db, item(c), (await reviewing(c)).enrolmentId, c.body, c.now);
    return getOwnPeer(c.db, await reviewing(c));
  }),
  implement(api.getShownWork, async (c) => (await readShown(c.db, await reviewing(c), c.params.workId)).view),
  implement(api.getShownFile, async (c) => {
    const { view, isNamed } = await readShown(c.db, await reviewing(c), c.params.workId);
    const isOfWork = view.work.files.some((one) => one.id === c.params.fileId);
    const file = isOfWork ? await findFile(c.db, c.courseId, c.params.fileId) : null;
    if (file === null) throw notFound();
    return isNamed ? sendFile(file, c.request, c.response) : sendBareFile(c.db, file, c.request, c.response);
  }),
  implement(api.showPeerWork, showingWork, async (c) => {
    // Found first, as far as whoever asks reaches it.
    await makePeerWork(watching(c), c.params.workId);
    await showWork(c.db, await readPeer(c.db, c.courseId, item(c), c.now), c.params.workId, c.body, c.person.personId, c.now);
    return makePeerWork(watching(c), c.params.workId);
  }),
  implement(api.setClosingWord, closingWord, async (c) => ({
    closing: await saveClosing(c.db, c.courseId, await requireReviewed(c), c.body),
  })),
  implement(api.getReviewsTable, (c) => sendReviews(c, c.query.format ?? 'csv')),
  implement(api.getReviewsPaper, (c) => sendPaper(c)),
];
