import {
  addRows,
  addSteps,
  type AgreedStep,
  listAgreed,
  readFinalFacts,
  rows,
  run,
  settleRecords,
  settleRows,
  type Db,
} from '@rosemary/server';
import { registrarLetter, type RegistrarRules } from '@rosemary/core';

/** What the simulated registrar takes, as he says it himself. */
const RULES: RegistrarRules = {
  letters: [
    ...['A', 'A-', 'B+', 'B', 'B-', 'C+', 'C', 'C-', 'D'].map((letter) => ({ letter, needsLastDay: false, isIncomplete: false })),
    { letter: 'F', needsLastDay: true, isIncomplete: false },
    { letter: 'I', needsLastDay: false, isIncomplete: true },
    { letter: 'W', needsLastDay: true, isIncomplete: false },
    { letter: 'AU', needsLastDay: false, isIncomplete: false },
  ],
  takesNumber: false,
  takesLastDay: true,
  takesExpiry: true,
  takesLapse: true,
};
/** The letters of the bands in words; the table has one gap, which the check before sending names. */
const BAND_LABELS = ['Excellent', 'Good', 'Sound', 'Weak', 'Not yet'];
const BANDS = { Excellent: 'A', Good: 'B', Sound: 'C', 'Not yet': 'F' };

/** Rows that are under way are answered by the registrar, in this order of students. */
async function answer(db: Db, courseId: string, refused: string | null, at: number): Promise<void> {
  const sent = await rows<{ id: string; enrolment_id: string }>(
    db,
    "update handover_row set state = 'sending', tries = tries + 1 where course_id = $1 and state = 'waiting' returning id, enrolment_id",
    [courseId],
  );
  await settleRows(
    db,
    sent.map((row) =>
      row.enrolment_id === refused
        ? {
            rowId: row.id,
            state: 'refused',
            receipt: null,
            code: 'not-in-section',
            text: 'This student is not in the section.',
            pause: null,
          }
        : { rowId: row.id, state: 'accepted', receipt: `R-${row.id.slice(0, 8)}`, code: null, text: '', pause: null },
    ),
    at,
  );
}

/**
 * Last term’s course handed over: agreed as calculated, one incomplete, one refusal that was mended, one correction. Beside it what the school
 * says of final grades: letters for the bands of the course that is still to be agreed, and for those who withdrew.
 */
export async function addHandover(db: Db, courseId: string, teacherId: string, at: number): Promise<void> {
  await run(
    db,
    "update handover_setting set rules = $1, withdrawn_letter = 'W', auditing_letter = 'AU', asked_at = to_timestamp($2 / 1000.0)",
    [JSON.stringify(RULES), at],
  );
  await run(db, 'insert into letter_table (labels, letters) values ($1, $2)', [BAND_LABELS, JSON.stringify(BANDS)]);
  const all = await readFinalFacts(db, courseId, null, at);
  const graded = all.people.filter((p) => p.standing === 'enrolled' && p.sectionId !== null);
  const day = all.facts.term.endsOn;
  const step = (enrolmentId: string, n: number): AgreedStep => {
    const is = all.calculated.get(enrolmentId);
    const calculated = is?.sentLetter ?? 'D';
    const sentLetter = n === 0 ? 'I' : calculated;
    const isOverride = sentLetter !== is?.sentLetter;
    return {
      enrolmentId,
      sectionId: graded.find((p) => p.enrolmentId === enrolmentId)?.sectionId ?? null,
      kind: 'agreed',
      sentLetter,
      letter: isOverride ? null : (is?.letter ?? null),
      percent: isOverride ? null : (is?.percent ?? null),
      calculatedLetter: is?.letter ?? null,
      calculatedPercent: is?.percent ?? null,
      isOverride,
      reason: isOverride ? 'Was ill for the last three weeks; the dossier is to come.' : '',
      lastDay: registrarLetter(RULES, sentLetter)?.needsLastDay === true ? day : null,
      lastDayFrom: '',
      expiresOn: n === 0 ? `${Number(day.slice(0, 4)) + 1}${day.slice(4)}` : null,
      lapsesTo: n === 0 ? 'F' : null,
    };
  };
  await addSteps(
    db,
    courseId,
    graded.map((p, n) => step(p.enrolmentId, n)),
    teacherId,
    at,
  );
  const send = async (
    ids: readonly string[],
    more: { readonly reason: string; readonly corrects: string | null },
    when: number,
  ): Promise<void> => {
    const agreed = await listAgreed(db, courseId);
    await addRows(
      db,
      courseId,
      ids.flatMap((enrolmentId) => {
        const own = agreed.get(enrolmentId);
        return own === undefined || own.sectionId === null
          ? []
          : [
              {
                enrolmentId,
                sectionId: own.sectionId,
                agreedId: own.id,
                correctsId: more.corrects,
                reason: more.reason,
                state: 'waiting' as const,
              },
            ];
      }),
      teacherId,
      when,
    );
  };
  const hour = 3_600_000;
  const ids = graded.map((p) => p.enrolmentId);
  const [refused = null, corrected = ''] = [ids[1] ?? null, ids[2] ?? ''];
  await send(ids, { reason: '', corrects: null }, at + hour);
  await answer(db, courseId, refused, at + hour);
  if (refused !== null) {
    await send([refused], { reason: '', corrects: null }, at + 5 * hour);
    await answer(db, courseId, null, at + 5 * hour);
  }
  const held = await rows<{ id: string }>(db, 'select id from handover_row where course_id = $1', [courseId]);
  await settleRecords(
    db,
    held.map((row) => row.id),
    at + 6 * hour,
  );
  const first = await rows<{ id: string }>(db, "select id from handover_row where enrolment_id = $1 and state = 'accepted'", [corrected]);
  const before = (await listAgreed(db, courseId)).get(corrected);
  if (first[0] === undefined || before === undefined) return;
  const reason = 'The points of the last bench test were added up wrongly.';
  await addSteps(
    db,
    courseId,
    [
      {
        ...before,
        kind: 'agreed',
        sentLetter: before.sentLetter === 'A' ? 'B+' : 'A-',
        isOverride: true,
        reason,
        letter: null,
        percent: null,
      },
    ],
    teacherId,
    at + 48 * hour,
  );
  await send([corrected], { reason, corrects: first[0].id }, at + 49 * hour);
  await answer(db, courseId, null, at + 49 * hour);
  const again = await rows<{ id: string }>(db, 'select id from handover_row where enrolment_id = $1', [corrected]);
  await settleRecords(
    db,
    again.map((row) => row.id),
    at + 49 * hour,
  );
}
