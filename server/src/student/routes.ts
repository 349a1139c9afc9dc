import {
  newWorkWord,
  noteAnswer,
  type NewWorkWord,
  type NoteAnswer,
  documentChange,
  draftLink,
  handIn as handInBody,
  tick,
  visit,
  type DocumentChange,
  type DraftLink,
  type HandIn,
  type Tick,
  type Visit,
} from '@rosemary/api';
import { AppError, invalid, notFound } from '../platform/errors.ts';
import { sayWord, setWordsRead } from '../marking/words.ts';
import { courseRoute, personRoute, type Route } from '../platform/route.ts';
import { addVisit, setTick } from './visits.ts';
import { makeMyGrades, makeStudentCourse, makeThisWeek } from './views.ts';
import { getVisible } from './visible.ts';
import { getStudentItem, handIn, requireOpen, saveDraft, saveDraftLink, setNoteAnswered } from './work.ts';
import { withdraw } from './withdraw.ts';

const ITEM = '/courses/:courseId/own/items/:itemId';

export const studentRoutes: readonly Route[] = [
  personRoute({
    method: 'get',
    path: '/this-week',
    handle: ({ db, person, now }) =>
      makeThisWeek(
        db,
        person.memberships.filter((m) => m.role === 'student' && m.isActive),
        now,
      ),
  }),
  courseRoute('work.own', {
    method: 'get',
    path: '/courses/:courseId/own/week',
    handle: ({ db, member, now }) => makeThisWeek(db, [member], now),
  }),
  courseRoute('work.own', {
    method: 'get',
    path: '/courses/:courseId/own/outline',
    handle: ({ db, courseId, member, now }) => makeStudentCourse(db, courseId, member, now),
  }),
  courseRoute('work.own', {
    method: 'get',
    path: '/courses/:courseId/own/grades',
    handle: ({ db, courseId, member, now }) => makeMyGrades(db, courseId, member, now),
  }),
  courseRoute('work.own', {
    method: 'get',
    path: ITEM,
    handle: ({ db, courseId, params, member, person, now }) =>
      getStudentItem(db, courseId, params.itemId ?? '', member, person.personId, now),
  }),
  courseRoute<Visit>('work.own', {
    method: 'post',
    path: `${ITEM}/visits`,
    isSilent: true,
    body: visit,
    handle: async ({ db, courseId, params, member, body, now }) => {
      const { item, visibility } = await getVisible(db, courseId, params.itemId ?? '', member, now);
      if (visibility === 'announced') throw notFound();
      await addVisit(db, item.id, member.enrolmentId, now, body.seconds);
    },
  }),
  courseRoute<Tick>('work.own', {
    method: 'put',
    path: `${ITEM}/tick`,
    body: tick,
    handle: async ({ db, courseId, params, member, body, now }) => {
      const { item, visibility } = await getVisible(db, courseId, params.itemId ?? '', member, now);
      if (visibility === 'announced') throw notFound();
      if (item.doneRule !== 'ticked') throw new AppError('not-now', 'This is not done by a tick. It says above what makes it done.');
      await setTick(db, item.id, member.enrolmentId, body.isTicked ? now : null);
    },
  }),
  courseRoute<DocumentChange>('work.own', {
    method: 'put',
    path: `${ITEM}/draft`,
    isSilent: true,
    body: documentChange,
    handle: async ({ db, courseId, params, member, body, now }) => {
      const { assignment } = await requireOpen(db, courseId, params.itemId ?? '', member, now);
      if (!assignment.acceptsText) throw invalid('document', 'This assignment takes no text written here.');
      return saveDraft(db, params.itemId ?? '', member, body, now);
    },
  }),
  courseRoute<DraftLink>('work.own', {
    method: 'put',
    path: `${ITEM}/draft-link`,
    isSilent: true,
    body: draftLink,
    handle: async ({ db, courseId, params, member, body, now }) => {
      const { assignment } = await requireOpen(db, courseId, params.itemId ?? '', member, now);
      if (!assignment.acceptsLink) throw invalid('link', 'This assignment takes no address.');
      await saveDraftLink(db, params.itemId ?? '', member, body.link, now);
    },
  }),
  courseRoute<NoteAnswer>('work.own', {
    method: 'put',
    path: `${ITEM}/notes/:noteId/answered`,
    body: noteAnswer,
    handle: async ({ db, courseId, params, member, body, now }) => {
      const { item } = await getVisible(db, courseId, params.itemId ?? '', member, now);
      const target = { itemId: item.id, enrolmentId: member.enrolmentId };
      await setNoteAnswered(db, target, params.noteId ?? '', body.isAnswered ? now : null);
    },
  }),
  courseRoute<NewWorkWord>('work.own', {
    method: 'post',
    path: `${ITEM}/words`,
    body: newWorkWord,
    handle: async ({ db, courseId, params, member, person, body, now }) => {
      const { item, visibility } = await getVisible(db, courseId, params.itemId ?? '', member, now);
      if (visibility === 'announced' || item.kind !== 'assignment') throw notFound();
      const target = { itemId: item.id, enrolmentId: member.enrolmentId };
      return sayWord(db, courseId, target, body, { personId: person.personId, isStaff: false }, now);
    },
  }),
  courseRoute('work.own', {
    method: 'post',
    path: `${ITEM}/words/read`,
    isSilent: true,
    handle: async ({ db, courseId, params, member, person, now }) => {
      const { item } = await getVisible(db, courseId, params.itemId ?? '', member, now);
      await setWordsRead(db, { itemId: item.id, enrolmentId: member.enrolmentId }, person.personId, now);
    },
  }),
  courseRoute<HandIn>('work.own', {
    method: 'post',
    path: `${ITEM}/hand-in`,
    gives: true,
    body: handInBody,
    handle: async ({ db, courseId, params, member, person, body, now, kick }) => {
      const receipt = await handIn(db, courseId, params.itemId ?? '', member, person.personId, body, now);
      if (receipt.link !== '') kick('keep-links');
      return receipt;
    },
  }),
  courseRoute('work.own', {
    method: 'delete',
    path: `${ITEM}/hand-in`,
    gives: true,
    handle: async ({ db, courseId, params, member, person, now }) => {
      await withdraw(db, courseId, params.itemId ?? '', member, person.personId, now);
    },
  }),
];
