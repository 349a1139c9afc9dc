import {
  agreeWish,
  approveWish,
  finalChoice,
  finalSettingChange,
  letterTableChange,
  reopenWish,
  schoolHandoverSetting,
  sendWish,
} from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { reachesSection } from '@rosemary/core';
import { maybe } from '../platform/database.ts';
import { makeOfRecord } from '../roster/index.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { agree, takeBackAgreed } from './agree.ts';
import { readFinals } from './finals.ts';
import { remind } from './remind.ts';
import { sendRecord } from './recordFile.ts';
import { readBackOf, wantReadBack } from './readBack.ts';
import { listRowHistory } from './rows.ts';
import { readSchoolHandover, saveSchoolSetting, saveTable } from './school.ts';
import { approveRows, noteByHand, sendFinals, stopRows, tryAgain } from './send.ts';
import { changeFinalSetting, setClosed, wantRegistrar } from './setting.ts';
import { sendTable } from './table.ts';
import { settleRecordsOf } from './record.ts';

const view = (c: Pick<MemberContext<unknown>, 'db' | 'courseId' | 'member' | 'now'>) => readFinals(c.db, c.courseId, c.member, c.now);

/** A section of the course that this member reaches. */
async function requireSection(c: MemberContext<unknown, { readonly sectionId: string }>): Promise<string> {
  const { sectionId } = c.params;
  const here = await maybe(c.db, 'select 1 as one from section where id = $1 and course_id = $2', [sectionId, c.courseId]);
  if (here === null || !reachesSection(c.member, sectionId)) throw notFound();
  return sectionId;
}

export const handoverRoutes: readonly Route[] = [
  implement(api.getFinals, view),
  implement(api.askRegistrar, async ({ db, courseId, now, kick }) => {
    await wantRegistrar(db, courseId, now);
    kick('hand-over');
  }),
  implement(api.agreeFinals, agreeWish, async (c) => {
    await agree(c.db, c.courseId, c.member, c.body, c.person.personId, c.now);
    return view(c);
  }),
  implement(api.takeBackFinals, finalChoice, async (c) => {
    await takeBackAgreed(c.db, c.courseId, c.member, c.body.enrolmentIds, c.person.personId, c.now);
    return view(c);
  }),
  implement(api.sendFinals, sendWish, async (c) => {
    const done = await sendFinals(c.db, c.courseId, c.member, c.body, c.person.personId, c.now);
    c.kick('hand-over');
    return done;
  }),
  implement(api.tryFinals, finalChoice, async (c) => {
    await tryAgain(c.db, c.courseId, c.body.enrolmentIds, c.person.personId, c.now);
    c.kick('hand-over');
  }),
  implement(api.stopFinals, finalChoice, async (c) => {
    await stopRows(c.db, c.courseId, c.body.enrolmentIds, c.person.personId, c.now);
    return view(c);
  }),
  implement(api.noteFinals, finalChoice, async (c) => {
    const done = await noteByHand(c.db, c.courseId, c.member, c.body.enrolmentIds, c.person.personId, c.now);
    await settleRecordsOf(c.db, c.courseId, c.body.enrolmentIds, c.now);
    return done;
  }),
  implement(api.getFinalHistory, async ({ db, courseId, params }) => ({
    entries: await listRowHistory(db, courseId, params.enrolmentId),
  })),
  implement(api.readBackFinals, async (c) => {
    await wantReadBack(c.db, await requireSection(c), c.now);
    c.kick('hand-over');
  }),
  implement(api.getReadBack, async (c) => readBackOf(c.db, c.courseId, await requireSection(c), c.now)),
  implement(api.getFinalsTable, (c) => sendTable(c)),
  implement(api.getFinalRecord, (c) => sendRecord(c)),
  implement(api.changeFinalSetting, finalSettingChange, async (c) => {
    await changeFinalSetting(c.db, c.courseId, c.body);
    return view(c);
  }),
  implement(api.getSchoolHandover, ({ db }) => readSchoolHandover(db)),
  implement(api.saveSchoolHandover, schoolHandoverSetting, async ({ db, body }) => {
    await saveSchoolSetting(db, body);
    return readSchoolHandover(db);
  }),
  implement(api.saveLetterTable, letterTableChange, async ({ db, body }) => {
    await saveTable(db, body);
    return readSchoolHandover(db);
  }),
  implement(api.setOfRecord, async ({ db, params }) => {
    await makeOfRecord(db, params.enrolmentId);
    return readSchoolHandover(db);
  }),
  implement(api.remindOfFinals, ({ db, now }) => remind(db, now)),
  implement(api.approveFinals, approveWish, async ({ db, body, person, now, kick }) => {
    await approveRows(db, body.rowIds, person.personId, now);
    kick('hand-over');
    return readSchoolHandover(db);
  }),
  implement(api.askSchoolRegistrar, async ({ db, now, kick }) => {
    await wantRegistrar(db, null, now);
    kick('hand-over');
  }),
  implement(api.reopenGrades, reopenWish, async (c) => {
    await setClosed(c.db, c.courseId, null);
    return view(c);
  }),
];
