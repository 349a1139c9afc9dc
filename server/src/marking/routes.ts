import {
  finish,
  finishUndo,
  handInFor as handInForBody,
  markChange,
  newNote,
  newWorkWord,
  noteChange,
  revisionAsk,
  type Finish,
  type FinishUndo,
  type HandInFor,
  type MarkChange,
  type NewNote,
  type NewWorkWord,
  type NoteChange,
  type RevisionAsk,
} from '@rosemary/api';
import { canReachBare, sendBareFile } from './bareRoute.ts';
import { notFound } from '../platform/errors.ts';
import { courseRoute, type MemberContext, type Route } from '../platform/route.ts';
import { withUpload } from '../files/upload.ts';
import { makeShared } from '../student/submission.ts';
import { addFeedbackFile, setFeedbackFileKept } from './feedbackFiles.ts';
import { finishMark } from './finish.ts';
import { addDraftFile, handInFor } from './handInFor.ts';
import { saveMark } from './marks.ts';
import { undoFinish } from './undoFinish.ts';
import { addNote, changeNote, setNoteRemoved } from './notes.ts';
import { listSeenNotes, makeWork, reach, reachToMark } from './reached.ts';
import { askRevision, setRevisionEnded } from './revision.ts';
import { makeStack } from './stack.ts';
import { makeMarkingList } from './waiting.ts';
import { listWords, sayWord, setWordsRead } from './words.ts';

export const ITEM = '/courses/:courseId/marking/:itemId';
const WORK = `${ITEM}/:enrolmentId`;

/** The work afresh, after something of it changed. */
const again = async (c: MemberContext<unknown>) => makeWork(c, await reach(c));

function noteRoute(method: 'delete' | 'post', path: string, removes: boolean): Route {
  return courseRoute('marking.mark', {
    method,
    path: `${WORK}/notes/:noteId${path}`,
    handle: async (c) => {
      const r = await reachToMark(c);
      await setNoteRemoved(c.db, r.target, c.params.noteId ?? '', removes ? c.now : null);
      return listSeenNotes(c.db, r, c.person.personId);
    },
  });
}

function revisionRoute(method: 'delete' | 'post', path: string, ends: boolean): Route {
  return courseRoute('marking.mark', {
    method,
    path: `${WORK}/revision/:revisionId${path}`,
    movesGrades: true,
    handle: async (c) => {
      const r = await reachToMark(c);
      await setRevisionEnded(c.db, c.courseId, r.target, c.params.revisionId ?? '', ends ? c.now : null);
      return again(c);
    },
  });
}

function feedbackRoute(method: 'delete' | 'post', path: string, isKept: boolean): Route {
  return courseRoute('marking.mark', {
    method,
    path: `${WORK}/feedback-files/:fileId${path}`,
    handle: async (c) => setFeedbackFileKept(c.db, c.courseId, (await reachToMark(c)).target, c.params.fileId ?? '', isKept),
  });
}

export const markingRoutes: readonly Route[] = [
  courseRoute('marking.see', {
    method: 'get',
    path: '/courses/:courseId/marking',
    handle: ({ db, courseId, member, person, now }) => makeMarkingList(db, courseId, member, person.personId, now),
  }),
  courseRoute('marking.see', {
    method: 'get',
    path: ITEM,
    handle: ({ db, courseId, member, params, person, now }) => makeStack(db, courseId, params.itemId ?? '', member, person.personId, now),
  }),
  courseRoute('marking.see', { method: 'get', path: WORK, handle: again }),
  courseRoute<MarkChange>('marking.mark', {
    method: 'put',
    path: `${WORK}/mark`,
    body: markChange,
    handle: async (c) => {
      const r = await reachToMark(c);
      return saveMark(c.db, r.target, c.body, c.person.personId, c.now, r.part.slot);
    },
  }),
  courseRoute<Finish>('marking.mark', {
    method: 'post',
    path: `${WORK}/finish`,
    gives: true,
    body: finish,
    handle: async (c) => {
      const r = await reachToMark(c);
      await finishMark(c.db, r.target, c.body, c.person.personId, c.now, r.part.slot);
      return again(c);
    },
  }),
  courseRoute<FinishUndo>('marking.mark', {
    method: 'post',
    path: `${WORK}/finish/undo`,
    gives: true,
    body: finishUndo,
    handle: async (c) => {
      const r = await reachToMark(c);
      await undoFinish(c.db, c.courseId, r.target, c.body.version, c.person.personId, c.now, r.part.slot);
      return again(c);
    },
  }),
  courseRoute<NewNote>('marking.mark', {
    method: 'post',
    path: `${WORK}/notes`,
    body: newNote,
    handle: async (c) => {
      const r = await reachToMark(c);
      await addNote(c.db, r.target, c.body, c.person.personId, c.now);
      return listSeenNotes(c.db, r, c.person.personId);
    },
  }),
  courseRoute<NoteChange>('marking.mark', {
    method: 'patch',
    path: `${WORK}/notes/:noteId`,
    body: noteChange,
    handle: async (c) => {
      const r = await reachToMark(c);
      await changeNote(c.db, r.target, c.params.noteId ?? '', c.body);
      return listSeenNotes(c.db, r, c.person.personId);
    },
  }),
  courseRoute<RevisionAsk>('marking.mark', {
    method: 'post',
    path: `${WORK}/revision`,
    movesGrades: true,
    body: revisionAsk,
    handle: async (c) => {
      const r = await reachToMark(c);
      await askRevision(c.db, c.courseId, r.target, c.body, c.person.personId, c.now);
      return again(c);
    },
  }),
  revisionRoute('delete', '', true),
  revisionRoute('post', '/restore', false),
  courseRoute<NewWorkWord>('marking.mark', {
    method: 'post',
    path: `${WORK}/words`,
    body: newWorkWord,
    handle: async (c) => {
      const r = await reach(c);
      await sayWord(c.db, c.courseId, r.target, c.body, { personId: c.person.personId, isStaff: true }, c.now);
      const words = await listWords(c.db, r.target, c.person.personId);
      return r.isVeiled ? words.map((w) => (w.isStaff ? w : { ...w, author: 'The student' })) : words;
    },
  }),
  courseRoute('marking.see', {
    method: 'post',
    path: `${WORK}/words/read`,
    isSilent: true,
    handle: async (c) => setWordsRead(c.db, (await reach(c)).target, c.person.personId, c.now),
  }),
  courseRoute<HandInFor>('marking.mark', {
    method: 'post',
    path: `${WORK}/hand-in`,
    gives: true,
    body: handInForBody,
    handle: async (c) => {
      const r = await reachToMark(c);
      await handInFor(c.db, r.target, c.body, c.person.personId, c.now);
      return again(c);
    },
  }),
  courseRoute('marking.mark', {
    method: 'post',
    path: `${WORK}/files`,
    isSilent: true,
    takesFile: true,
    handle: async (c) => {
      const r = await reachToMark(c);
      const draft = await makeShared(c.db, r.item.id, r.person.enrolmentId);
      return withUpload(c.request, c.response, (file) => addDraftFile(c.db, c.courseId, r.item.id, draft, file, c.person.personId, c.now));
    },
  }),
  courseRoute('marking.mark', {
    method: 'post',
    path: `${WORK}/feedback-files`,
    takesFile: true,
    handle: async (c) => {
      const r = await reachToMark(c);
      return withUpload(c.request, c.response, (file) => addFeedbackFile(c.db, c.courseId, r.target, file, c.person.personId, c.now));
    },
  }),
  feedbackRoute('delete', '', false),
  feedbackRoute('post', '/restore', true),
  // The files of a work whose student's name is hidden: without their own name, and without what they say of their maker.
  courseRoute('marking.see', {
    method: 'get',
    path: `${WORK}/files/:fileId`,
    answers: 'stream',
    handle: async (c) => {
      const r = await reach(c);
      const file = await canReachBare(c.db, c.courseId, r.target, c.params.fileId ?? '');
      if (file === null) throw notFound();
      return sendBareFile(c.db, file, c.request, c.response);
    },
  }),
  noteRoute('delete', '', true),
  noteRoute('post', '/restore', false),
];
