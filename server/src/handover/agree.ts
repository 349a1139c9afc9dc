import type { AgreeRow, AgreeWish } from '@rosemary/api';
import { formatPoints, gradeFaults, type Membership, registrarLetter } from '@rosemary/core';
import { type Db, run } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { type AgreedStep, addSteps } from './agreed.ts';
import { type Calculated, type FinalFacts, readFinalFacts } from './finals.ts';

interface Fault {
  readonly field: string;
  readonly text: string;
}

/** Agreeing and sending of a course go one after another. */
export const lockFinals = (db: Db, courseId: string): Promise<number> =>
  run(db, 'select pg_advisory_xact_lock(hashtextextended($1, 0))', [`finals ${courseId}`]);

/** The step a wish makes of what is calculated now, or what is wrong with it. */
function stepOf(all: FinalFacts, wish: AgreeRow, n: number): AgreedStep | Fault[] {
  const person = all.people.find((p) => p.enrolmentId === wish.enrolmentId);
  const { rules } = all.setting;
  const at = (field: string): string => `rows.${n}.${field}`;
  if (person === undefined || rules === null) return [{ field: at('enrolmentId'), text: 'This student is no longer in the list.' }];
  const name = `${person.givenName} ${person.familyName}`;
  const calculated: Calculated = all.calculated.get(person.enrolmentId) ?? { percent: null, letter: null, sentLetter: null };
  if (calculated.percent !== wish.seenPercent)
    return [
      {
        field: at('seenPercent'),
        text: `${name}: the calculated grade is ${calculated.percent ?? 'nothing'} now, and was ${wish.seenPercent ?? 'nothing'} when you looked. Look again, then agree.`,
      },
    ];
  const sentLetter = wish.sentLetter ?? calculated.sentLetter;
  if (sentLetter === null)
    return [
      { field: at('sentLetter'), text: `${name} has no calculated letter that the registrar takes. Choose a letter, with a reason.` },
    ];
  const number = rules.takesNumber && wish.number !== null ? formatPoints(wish.number) : null;
  const isOther = sentLetter !== calculated.sentLetter;
  const isOverride = isOther || (number !== null && number !== calculated.percent);
  const known = registrarLetter(rules, sentLetter);
  const given = {
    letter: sentLetter,
    lastDay: rules.takesLastDay ? wish.lastDay : null,
    expiresOn: known?.isIncomplete === true && rules.takesExpiry ? wish.expiresOn : null,
    lapsesTo: known?.isIncomplete === true && rules.takesLapse ? wish.lapsesTo : null,
  };
  const faults = gradeFaults(given, rules, { startsOn: all.facts.term.startsOn, today: all.today }).map(({ field, text }) => ({
    field: at(field === 'letter' ? 'sentLetter' : field),
    text: `${name}: ${text}`,
  }));
  if (isOverride && wish.reason === '')
    faults.push({
      field: at('reason'),
      text: `${name}: say why ${isOther ? sentLetter : (number ?? sentLetter)} stands instead of ${(isOther ? calculated.sentLetter : calculated.percent) ?? 'nothing'}.`,
    });
  if (faults.length > 0) return faults;
  return {
    enrolmentId: person.enrolmentId,
    sectionId: person.sectionId,
    kind: 'agreed',
    sentLetter,
    letter: isOther ? null : calculated.letter,
    percent: number ?? (isOther ? null : calculated.percent),
    calculatedLetter: calculated.letter,
    calculatedPercent: calculated.percent,
    isOverride,
    reason: wish.reason,
    lastDay: given.lastDay,
    lastDayFrom: given.lastDay === null ? '' : wish.lastDayFrom,
    expiresOn: given.expiresOn,
    lapsesTo: given.lapsesTo,
  };
}

const MOST_SAID = 20;

/** Agrees on grades, all of those named or none; each fault names its student and the mend. */
export async function agree(db: Db, courseId: string, member: Membership, wish: AgreeWish, actorId: string, now: number): Promise<void> {
  await lockFinals(db, courseId);
  const all = await readFinalFacts(db, courseId, member.sectionIds, now);
  if (all.setting.rules === null)
    throw new AppError(
      'not-now',
      'What the registrar takes is not known yet, since he has not answered. Ask him anew, then agree: nothing you chose is lost.',
    );
  const done = wish.rows.map((row, n) => stepOf(all, row, n));
  const faults = done.flatMap((one) => (Array.isArray(one) ? one : []));
  if (faults.length > 0) {
    const more = faults.length > MOST_SAID ? ` And ${faults.length - MOST_SAID} more.` : '';
    throw new AppError(
      'invalid',
      faults
        .slice(0, MOST_SAID)
        .map((f) => f.text)
        .join(' ') + more,
      faults,
    );
  }
  await addSteps(
    db,
    courseId,
    done.flatMap((one) => (Array.isArray(one) ? [] : [one])),
    actorId,
    now,
  );
}

/** Takes agreements back; what the registrar holds stays held, and what is under way is stopped by `sendFinals`’ own rules. */
export async function takeBackAgreed(
  db: Db,
  courseId: string,
  member: Membership,
  enrolmentIds: readonly string[],
  actorId: string,
  now: number,
): Promise<void> {
  await lockFinals(db, courseId);
  const { agreed, people } = await readFinalFacts(db, courseId, member.sectionIds, now);
  const reached = new Set(people.map((p) => p.enrolmentId));
  const steps = enrolmentIds.flatMap((id): AgreedStep[] => {
    const own = agreed.get(id);
    return own === undefined || !reached.has(id) ? [] : [{ ...own, kind: 'taken back', reason: '' }];
  });
  if (steps.length > 0) await addSteps(db, courseId, steps, actorId, now);
}
