import { kindOfItem } from '@rosemary/core';
import { documentChange, draftLink, handIn as handInBody, newWorkWord, noteAnswer, tick, visit } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { handIn, requireOpen, saveDraft, saveDraftLink, withdraw } from '../handIn/index.ts';
import { sayWord, setNoteAnswered, setWordsRead } from '../marks/index.ts';
import { getVisible } from '../opening/index.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';
import { implement, type Route } from '../platform/route.ts';
import { getStudentItem } from './item.ts';
import { makeMyGrades, makeStudentCourse, makeThisWeek } from './views.ts';
import { addVisit, setTick } from './visits.ts';

export const studentRoutes: readonly Route[] = [
  implement(api.getMyWeek, ({ db, person, now }) =>
    makeThisWeek(
      db,
      person.memberships.filter((m) => m.role === 'student' && m.isActive),
      now,
    ),
  ),
  implement(api.getOwnWeek, ({ db, member, now }) => makeThisWeek(db, [member], now)),
  implement(api.getOwnOutline, ({ db, courseId, member, now }) => makeStudentCourse(db, courseId, member, now)),
  implement(api.getOwnGrades, ({ db, courseId, member, now }) => makeMyGrades(db, courseId, member, now)),
  implement(api.getOwnItem, ({ db, courseId, params, member, person, now }) =>
    getStudentItem(db, courseId, params.itemId, member, person.personId, now),
  ),
  implement(api.noteVisit, visit, async ({ db, courseId, params, member, body, now }) => {
    const { item, visibility } = await getVisible(db, courseId, params.itemId, member, now);
    if (visibility === 'announced') throw notFound();
    const doing = body.hasTyped === true ? kindOfItem(item.kind).typing : 'reading';
    await addVisit(db, item.id, member.enrolmentId, { doing, at: now, seconds: body.seconds });
  }),
  implement(api.tickItem, tick, async ({ db, courseId, params, member, body, now }) => {
    const { item, visibility } = await getVisible(db, courseId, params.itemId, member, now);
    if (visibility === 'announced') throw notFound();
    if (item.doneRule !== 'ticked') throw new AppError('not-now', 'This is not done by a tick. It says above what makes it done.');
    await setTick(db, item.id, member.enrolmentId, body.isTicked ? now : null);
  }),
  implement(api.saveDraft, documentChange, async ({ db, courseId, params, member, body, now }) => {
    const { assignment } = await requireOpen(db, courseId, params.itemId, member, now);
    if (!assignment.acceptsText) throw invalid('document', 'This assignment takes no text written here.');
    return saveDraft(db, params.itemId, member, body, now);
  }),
  implement(api.saveDraftLink, draftLink, async ({ db, courseId, params, member, body, now }) => {
    const { assignment } = await requireOpen(db, courseId, params.itemId, member, now);
    if (!assignment.acceptsLink) throw invalid('link', 'This assignment takes no address.');
    await saveDraftLink(db, params.itemId, member, body.link, now);
  }),
  implement(api.answerNote, noteAnswer, async ({ db, courseId, params, member, body, now }) => {
    const { item } = await getVisible(db, courseId, params.itemId, member, now);
    const target = { itemId: item.id, enrolmentId: member.enrolmentId };
    await setNoteAnswered(db, target, params.noteId, body.isAnswered ? now : null);
  }),
  implement(api.sayToMarker, newWorkWord, async ({ db, courseId, params, member, person, body, now }) => {
    const { item, visibility } = await getVisible(db, courseId, params.itemId, member, now);
    if (visibility === 'announced' || kindOfItem(item.kind).marking !== 'work') throw notFound();
    const target = { itemId: item.id, enrolmentId: member.enrolmentId };
    return sayWord(db, courseId, target, body, { personId: person.personId, isStaff: false }, now);
  }),
  implement(api.readMarkersWords, async ({ db, courseId, params, member, person, now }) => {
    const { item } = await getVisible(db, courseId, params.itemId, member, now);
    await setWordsRead(db, { itemId: item.id, enrolmentId: member.enrolmentId }, person.personId, now);
  }),
  implement(api.handIn, handInBody, async ({ db, courseId, params, member, person, body, now, kick }) => {
    const receipt = await handIn(db, courseId, params.itemId, member, person.personId, body, now);
    if (receipt.link !== '') kick('keep-links');
    return receipt;
  }),
  implement(api.takeBackHandIn, async ({ db, courseId, params, member, person, now }) => {
    await withdraw(db, courseId, params.itemId, member, person.personId, now);
  }),
];
