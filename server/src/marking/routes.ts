import { finish, finishUndo, handInFor as handInForBody, markChange, newNote, newWorkWord, noteChange, revisionAsk } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';

import { addDraftFile, askRevision, handInFor, makeShared, setRevisionEnded } from '../handIn/index.ts';
import {
  addFeedbackFile,
  addNote,
  changeNote,
  finishMark,
  listWords,
  saveMark,
  sayWord,
  setFeedbackFileKept,
  setNoteRemoved,
  setWordsRead,
  undoFinish,
} from '../marks/index.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { sendBareFile } from '../openFile/index.ts';
import { canReachBare } from './bareRoute.ts';
import { listSeenNotes, makeWork, reach, reachToMark } from './reached.ts';
import { makeStack } from './stack.ts';
import { makeMarkingList } from './waiting.ts';

/** The work afresh, after something of it changed. */
const again = async (c: MemberContext<unknown>) => makeWork(c, await reach(c));

async function setNote(c: MemberContext<unknown, { readonly noteId: string }>, removedAt: number | null) {
  const r = await reachToMark(c);
  await setNoteRemoved(c.db, r.target, c.params.noteId, removedAt);
  return listSeenNotes(c.db, r, c.person.personId);
}

async function setRevision(c: MemberContext<unknown, { readonly revisionId: string }>, endedAt: number | null) {
  const r = await reachToMark(c);
  await setRevisionEnded(c.db, c.courseId, r.target, c.params.revisionId, endedAt);
  return again(c);
}

async function setFeedbackFile(c: MemberContext<unknown, { readonly fileId: string }>, isKept: boolean) {
  return setFeedbackFileKept(c.db, c.courseId, (await reachToMark(c)).target, c.params.fileId, isKept);
}

export const markingRoutes: readonly Route[] = [
  implement(api.getMarkingList, ({ db, courseId, member, person, now }) => makeMarkingList(db, courseId, member, person.personId, now)),
  implement(api.getStack, ({ db, courseId, member, params, person, now }) =>
    makeStack(db, courseId, params.itemId, member, person.personId, now),
  ),
  implement(api.getWork, again),
  implement(api.saveMark, markChange, async (c) => {
    const r = await reachToMark(c);
    return saveMark(c.db, r.target, c.body, c.person.personId, c.now, r.part.slot);
  }),
  implement(api.finishMark, finish, async (c) => {
    const r = await reachToMark(c);
    await finishMark(c.db, r.target, c.body, c.person.personId, c.now, r.part.slot);
    return again(c);
  }),
  implement(api.undoFinish, finishUndo, async (c) => {
    const r = await reachToMark(c);
    await undoFinish(c.db, c.courseId, r.target, c.body.version, c.person.personId, c.now, r.part.slot);
    return again(c);
  }),
  implement(api.addNote, newNote, async (c) => {
    const r = await reachToMark(c);
    await addNote(c.db, r.target, c.body, c.person.personId, c.now);
    return listSeenNotes(c.db, r, c.person.personId);
  }),
  implement(api.changeNote, noteChange, async (c) => {
    const r = await reachToMark(c);
    await changeNote(c.db, r.target, c.params.noteId, c.body);
    return listSeenNotes(c.db, r, c.person.personId);
  }),
  implement(api.askRevision, revisionAsk, async (c) => {
    const r = await reachToMark(c);
    await askRevision(c.db, c.courseId, r.target, c.body, c.person.personId, c.now);
    return again(c);
  }),
  implement(api.endRevision, (c) => setRevision(c, c.now)),
  implement(api.restoreRevision, (c) => setRevision(c, null)),
  implement(api.sayToStudent, newWorkWord, async (c) => {
    const r = await reach(c);
    await sayWord(c.db, c.courseId, r.target, c.body, { personId: c.person.personId, isStaff: true }, c.now);
    const words = await listWords(c.db, r.target, c.person.personId);
    return r.isVeiled ? words.map((w) => (w.isStaff ? w : { ...w, author: 'The student' })) : words;
  }),
  implement(api.readStudentsWords, async (c) => setWordsRead(c.db, (await reach(c)).target, c.person.personId, c.now)),
  implement(api.handInFor, handInForBody, async (c) => {
    const r = await reachToMark(c);
    await handInFor(c.db, r.target, c.body, c.person.personId, c.now);
    return again(c);
  }),
  implement(api.addFileFor, async (c) => {
    const r = await reachToMark(c);
    const draft = await makeShared(c.db, r.column.itemId, r.person.enrolmentId);
    return addDraftFile(c.db, c.courseId, r.column.itemId, draft, c.file, c.person.personId, c.now);
  }),
  implement(api.addFeedbackFile, async (c) => {
    const r = await reachToMark(c);
    return addFeedbackFile(c.db, c.courseId, r.target, c.file, c.person.personId, c.now);
  }),
  implement(api.removeFeedbackFile, (c) => setFeedbackFile(c, false)),
  implement(api.restoreFeedbackFile, (c) => setFeedbackFile(c, true)),
  // The files of a work whose student's name is hidden: without their own name, and without what they say of their maker.
  implement(api.getWorkFile, async (c) => {
    const r = await reach(c);
    const file = await canReachBare(c.db, c.courseId, r.target, c.params.fileId);
    if (file === null) throw notFound();
    return sendBareFile(c.db, file, c.request, c.response);
  }),
  implement(api.removeNote, (c) => setNote(c, c.now)),
  implement(api.restoreNote, (c) => setNote(c, null)),
];
