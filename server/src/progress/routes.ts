import { newWordNote, wordNotesRemoval, wordRulesChange, wordsWriting } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { reachesSection } from '@rosemary/core';
import { notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { readClassProgress } from './classProgress.ts';
import { listAlignedQuestions, makeObjectives } from './aligned.ts';
import { makeDetail } from './detail.ts';
import { readCourse } from './readCourse.ts';
import { makeReport } from './report.ts';
import { makeRhythm } from './rhythm.ts';
import { sendStatements } from './statements.ts';
import { readOwnStory, readStudentStory } from './story.ts';
import { makeVisits } from './visits.ts';
import { addNotes, readWords, removeNotes, saveRules, write } from './words.ts';

const notingOf = ({ courseId, member, person, now }: MemberContext<unknown>) => ({ courseId, member, personId: person.personId, now });

export const progressRoutes: readonly Route[] = [
  implement(api.getProgress, ({ db, courseId, member, now }) => makeReport(db, courseId, member.sectionIds, now)),
  implement(api.getProgressObjectives, ({ db, courseId, member, now }) => makeObjectives(db, courseId, member.sectionIds, now)),
  implement(api.getAlignedQuestions, ({ db, courseId, member, query, now }) =>
    listAlignedQuestions(db, courseId, { objective: query.objective ?? '', item: query.item ?? '' }, member.sectionIds, now),
  ),
  implement(api.getProgressRhythm, ({ db, courseId, member }) => makeRhythm(db, courseId, { sectionIds: member.sectionIds })),
  implement(api.getStatements, ({ db, courseId, member, request, response }) =>
    sendStatements({ db, courseId, sectionIds: member.sectionIds, request, response }),
  ),
  implement(api.getProgressVisits, ({ db, courseId, member, now }) => makeVisits(db, courseId, member.sectionIds, now)),
  implement(api.getStudentStory, ({ db, courseId, person, member, params, now }) =>
    readStudentStory(db, courseId, params.enrolmentId, { person, member }, now),
  ),
  implement(api.getOwnStory, ({ db, courseId, member, isSeenAs, now }) => readOwnStory(db, courseId, { member, isSeenAs }, now)),
  implement(api.getWords, ({ db, courseId, member, now }) => readWords(db, courseId, member, now)),
  implement(api.changeWordRules, wordRulesChange, async ({ db, courseId, member, body, now }) => {
    await saveRules(db, courseId, body);
    return readWords(db, courseId, member, now);
  }),
  implement(api.addWordNotes, newWordNote, async (c) => {
    const noteIds = await addNotes(c.db, notingOf(c), c.body);
    return { ...(await readWords(c.db, c.courseId, c.member, c.now)), noteIds };
  }),
  implement(api.removeWordNotes, wordNotesRemoval, async (c) => {
    await removeNotes(c.db, notingOf(c), c.body.noteIds);
    return readWords(c.db, c.courseId, c.member, c.now);
  }),
  implement(api.writeWords, wordsWriting, async (c) => {
    await write(c.db, notingOf(c), c.body);
    return readWords(c.db, c.courseId, c.member, c.now);
  }),
  implement(api.getClassProgress, ({ db, courseId, now }) => readClassProgress(db, courseId, now)),
  implement(api.getProgressOf, async ({ db, courseId, member, params, now }) => {
    const course = await readCourse(db, courseId, { enrolmentId: params.enrolmentId }, now);
    const [person] = course.facts.people;
    if (person === undefined || !reachesSection(member, person.sectionId)) throw notFound();
    return makeDetail(course, person, now);
  }),
];
