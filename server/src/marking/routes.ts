import {
  finish,
  handInFor as handInForBody,
  markChange,
  newWorkWord,
  revisionAsk,
  type HandInFor,
  type NewWorkWord,
  type RevisionAsk,
  newNote,
  noteChange,
  release,
  type Finish,
  type MarkChange,
  type NewNote,
  type NoteChange,
  type Release,
  type Work,
} from '@rosemary/api';
import { reachesSection, workingOfCell } from '@rosemary/core';
import { cellFor, toGraded } from '../gradebook/cells.ts';
import type { CourseFacts, FactItem, FactPerson } from '../gradebook/facts.ts';
import { readOne } from '../gradebook/routes.ts';
import { findAssignment, findRubricInUse } from '../plan/queries.ts';
import { maybe, rows, type Db } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { courseRoute, type MemberContext, type Route } from '../platform/route.ts';
import { finishMark, getMark, saveMark, setReleased } from './marks.ts';
import type { Target } from './target.ts';
import { withUpload } from '../files/upload.ts';
import { makeSubmission } from '../student/submission.ts';
import { addDraftFile, findDraft, handInFor } from './handInFor.ts';
import { askRevision, findRevision, setRevisionEnded } from './revision.ts';
import { listWords, sayWord, setWordsRead } from './words.ts';
import { addNote, changeNote, setNoteRemoved } from './notes.ts';
import { listAttempts, listNotes } from './queries.ts';
import { datesView, latenessText, makeEntry, makeMarkingList, makeStack } from './stack.ts';

const ITEM = '/courses/:courseId/marking/:itemId';
const WORK = `${ITEM}/:enrolmentId`;

interface Reached {
  readonly facts: CourseFacts;
  readonly item: FactItem;
  readonly person: FactPerson;
  readonly target: Target;
}

/** The work of one student, if the item is of this course, open to marking, and this marker reaches the student. */
async function reach(c: MemberContext<unknown>): Promise<Reached> {
  const { facts, person } = await readOne(c.db, c.courseId, c.params.enrolmentId ?? '', c.member);
  const item = facts.items.find((i) => i.id === c.params.itemId && !i.isDraft);
  if (item === undefined) throw notFound();
  return { facts, item, person, target: { itemId: item.id, enrolmentId: person.enrolmentId } };
}

async function makeWork(db: Db, { facts, item, person, target }: Reached, readerId: string, now: number): Promise<Work> {
  const assignment = await findAssignment(db, item.id);
  const dates = facts.datesFor(item, person);
  const attempts = (await listAttempts(db, item.id, person.enrolmentId)).map((a) => ({
    ...a,
    lateText: latenessText(facts, dates, Date.parse(a.handedInAt)),
  }));
  return {
    entry: await makeEntry(db, facts, item, person, now),
    attempts,
    notes: await listNotes(db, item.id, person.enrolmentId),
    mark: await getMark(db, target),
    rubric: await findRubricInUse(db, item.id),
    possible: item.possible,
    working: workingOfCell(toGraded(item), cellFor(facts, item, person, now, false)),
    instructions: assignment?.instructions ?? null,
    dates: datesView(dates),
    revision: await findRevision(db, target),
    words: await listWords(db, target, readerId),
    draft: attempts.length > 0 ? null : await findDraft(db, target),
    judged: assignment?.judged ?? 'points',
  };
}

/** The students an instruction is about: those named, or everyone in the course; each must be reached. */
async function listTargets(c: MemberContext<Release>): Promise<string[]> {
  if (
    (await maybe(c.db, 'select 1 as one from item where id = $1 and course_id = $2 and removed_at is null', [
      c.params.itemId,
      c.courseId,
    ])) === null
  )
    throw notFound();
  const students = await rows<{ id: string; section_id: string | null }>(
    c.db,
    "select id, section_id from enrolment where course_id = $1 and role = 'student' and withdrawn_at is null",
    [c.courseId],
  );
  const reached = students.filter((s) => reachesSection(c.member, s.section_id)).map((s) => s.id);
  const named = c.body.enrolmentIds;
  if (named === null) return reached;
  if (named.some((id) => !reached.includes(id))) throw notFound();
  return [...named];
}

function releaseRoute(path: string, isReleased: boolean): Route {
  return courseRoute<Release>('marking.release', {
    method: 'post',
    path: `${ITEM}/${path}`,
    body: release,
    handle: async (c) => {
      const many = await setReleased(c.db, c.params.itemId ?? '', await listTargets(c), isReleased, c.person.personId, c.now);
      if (many === 0)
        throw new AppError('not-now', isReleased ? 'No finished mark waits to be released.' : 'None of these marks is released.');
      return { many };
    },
  });
}

function noteRoute(method: 'delete' | 'post', path: string, removes: boolean): Route {
  return courseRoute('marking.mark', {
    method,
    path: `${WORK}/notes/:noteId${path}`,
    handle: async (c) => {
      const r = await reach(c);
      await setNoteRemoved(c.db, r.target, c.params.noteId ?? '', removes ? c.now : null);
      return listNotes(c.db, r.item.id, r.person.enrolmentId);
    },
  });
}

function revisionRoute(method: 'delete' | 'post', path: string, ends: boolean): Route {
  return courseRoute('marking.mark', {
    method,
    path: `${WORK}/revision/:revisionId${path}`,
    movesGrades: true,
    handle: async (c) => {
      const r = await reach(c);
      await setRevisionEnded(c.db, c.courseId, r.target, c.params.revisionId ?? '', ends ? c.now : null);
      return makeWork(c.db, await reach(c), c.person.personId, c.now);
    },
  });
}

export const markingRoutes: readonly Route[] = [
  courseRoute('marking.see', {
    method: 'get',
    path: '/courses/:courseId/marking',
    handle: ({ db, courseId, member, person, now }) => makeMarkingList(db, courseId, member.sectionIds, person.personId, now),
  }),
  courseRoute('marking.see', {
    method: 'get',
    path: ITEM,
    handle: ({ db, courseId, member, params, person, now }) =>
      makeStack(db, courseId, params.itemId ?? '', member.sectionIds, person.personId, now),
  }),
  releaseRoute('release', true),
  releaseRoute('withhold', false),
  courseRoute('marking.see', { method: 'get', path: WORK, handle: async (c) => makeWork(c.db, await reach(c), c.person.personId, c.now) }),
  courseRoute<MarkChange>('marking.mark', {
    method: 'put',
    path: `${WORK}/mark`,
    body: markChange,
    handle: async (c) => saveMark(c.db, (await reach(c)).target, c.body, c.person.personId, c.now),
  }),
  courseRoute<Finish>('marking.mark', {
    method: 'post',
    path: `${WORK}/finish`,
    body: finish,
    handle: async (c) => {
      const r = await reach(c);
      await finishMark(c.db, r.target, c.body, c.person.personId, c.now);
      return makeWork(c.db, await reach(c), c.person.personId, c.now);
    },
  }),
  courseRoute<NewNote>('marking.mark', {
    method: 'post',
    path: `${WORK}/notes`,
    body: newNote,
    handle: async (c) => {
      const r = await reach(c);
      await addNote(c.db, r.target, c.body, c.person.personId, c.now);
      return listNotes(c.db, r.item.id, r.person.enrolmentId);
    },
  }),
  courseRoute<NoteChange>('marking.mark', {
    method: 'patch',
    path: `${WORK}/notes/:noteId`,
    body: noteChange,
    handle: async (c) => {
      const r = await reach(c);
      await changeNote(c.db, r.target, c.params.noteId ?? '', c.body);
      return listNotes(c.db, r.item.id, r.person.enrolmentId);
    },
  }),
  courseRoute<RevisionAsk>('marking.mark', {
    method: 'post',
    path: `${WORK}/revision`,
    movesGrades: true,
    body: revisionAsk,
    handle: async (c) => {
      const r = await reach(c);
      await askRevision(c.db, c.courseId, r.target, c.body, c.person.personId, c.now);
      return makeWork(c.db, await reach(c), c.person.personId, c.now);
    },
  }),
  revisionRoute('delete', '', true),
  revisionRoute('post', '/restore', false),
  courseRoute<NewWorkWord>('marking.mark', {
    method: 'post',
    path: `${WORK}/words`,
    body: newWorkWord,
    handle: async (c) => sayWord(c.db, c.courseId, (await reach(c)).target, c.body, { personId: c.person.personId, isStaff: true }, c.now),
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
    body: handInForBody,
    handle: async (c) => {
      const r = await reach(c);
      await handInFor(c.db, r.target, c.body, c.person.personId, c.now);
      return makeWork(c.db, await reach(c), c.person.personId, c.now);
    },
  }),
  courseRoute('marking.mark', {
    method: 'post',
    path: `${WORK}/files`,
    isSilent: true,
    takesFile: true,
    handle: async (c) => {
      const r = await reach(c);
      const submission = await makeSubmission(c.db, r.item.id, r.person.enrolmentId);
      return withUpload(c.request, c.response, (file) =>
        addDraftFile(c.db, c.courseId, r.item.id, submission.id, file, c.person.personId, c.now),
      );
    },
  }),
  noteRoute('delete', '', true),
  noteRoute('post', '/restore', false),
];
