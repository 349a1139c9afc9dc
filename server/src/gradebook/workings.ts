import type { WorkingView } from '@rosemary/api';
import {
  categoryRule,
  classShare,
  countOf,
  dayAndTime,
  exactText,
  formatPoints,
  partOfTotal,
  ratio,
  type Ratio,
  readTotal,
  roundHalfUp,
  stateWords,
  type Total,
  type WorkingLine,
  workingOfCategory,
  workingOfCell,
  workingOfPeriod,
  workingOfTotal,
} from '@rosemary/core';
import { notFound } from '../platform/errors.ts';
import { calculate, cellFor, toGraded } from './cells.ts';
import type { CourseFacts, FactPerson } from './factTypes.ts';

/** Instants of a working, in the zone of the course. */
export const atText =
  (facts: Pick<CourseFacts, 'zone'>, now: number) =>
  (instant: number): string =>
    dayAndTime(instant, facts.zone, now);

function totalWorking(facts: CourseFacts, who: string, total: Total, now: number): WorkingView {
  const reading = readTotal(total.ratio, facts.policy.decimals, facts.policy.levels);
  const name = { 'so far': 'Total so far', floor: 'Floor', reach: 'Reach' }[total.kind];
  const rule = {
    'so far': 'what has been marked; missing work as the policy says',
    floor: 'if nothing more came',
    reach: 'if all the rest were perfect',
  }[total.kind];
  return {
    who,
    title:
      reading === null ? `${name}: nothing yet` : `${name}: ${reading.percent} %${reading.letter === null ? '' : `, ${reading.letter}`}`,
    rule,
    lines: workingOfTotal(total, facts.policy, atText(facts, now)),
    inTotal: null,
  };
}

function categoryWorking(facts: CourseFacts, who: string, total: Total, categoryId: string, periodId: string, now: number): WorkingView {
  const period = total.periods.find((p) => (p.period?.id ?? '') === periodId);
  const entry = period?.categories.find((c) => c.category?.id === categoryId);
  if (entry === undefined || entry.category === null || period === undefined) throw notFound();
  const { category } = entry;
  const result = entry.total.ratio;
  const part = partOfTotal(entry, period);
  return {
    who,
    title: `${period.period === null ? '' : `${period.period.title}: `}${category.title} so far: ${result === null ? 'nothing yet' : `${roundHalfUp(result.mul(100), facts.policy.decimals)} %`}`,
    rule: categoryRule(category.method, category.dropLowest, category.keepBest, category.dropHighest),
    lines: workingOfCategory(entry.total, facts.policy.decimals, atText(facts, now)),
    inTotal:
      part === null
        ? null
        : category.isExtraCredit
          ? `on top of the total, ${formatPoints(entry.weightPercent)} % of the whole: ${exactText(part)}`
          : `in the total${period.period === null ? '' : ` of ${period.period.title}`}, weight ${formatPoints(entry.weightPercent)} of ${formatPoints(period.weightSum)}: ${exactText(part)}`,
  };
}

/** The total of one grading period, with what it brings to the course. */
function periodWorking(facts: CourseFacts, who: string, total: Total, periodId: string, now: number): WorkingView {
  const period = total.periods.find((p) => p.period?.id === periodId);
  if (period?.period === null || period?.period === undefined) throw notFound();
  const { title, weightPercent } = period.period;
  const { decimals } = facts.policy;
  const counted = total.periods.reduce((sum, p) => sum + (p.ratio === null ? 0 : (p.period?.weightPercent ?? 0)), 0);
  return {
    who,
    title: `${title} so far: ${period.ratio === null ? 'nothing yet' : `${roundHalfUp(period.ratio.mul(100), decimals)} %`}`,
    rule: 'a grading period: the total of what is due in it',
    lines: workingOfPeriod(period, facts.policy, atText(facts, now)),
    inTotal:
      period.ratio === null
        ? null
        : `in the course total, weight ${formatPoints(weightPercent)} of ${formatPoints(counted)}: ${exactText(period.ratio.mul(100).mul(ratio(weightPercent, Math.max(1, counted))))}`,
  };
}

/** How the class stands: the mean of the totals so far, each of them listed. */
export function workingOfClass(facts: CourseFacts, now: number): WorkingView {
  const calculation = calculate(facts, now, false);
  const totals = facts.people.map((person) => ({ person, total: calculation.totalsOf(calculation.cellsOf(person)).soFar.ratio }));
  const counted = totals.flatMap((t) => (t.total === null ? [] : [t.total]));
  const mean = classShare(counted);
  const percent = (value: Ratio): string => `${exactText(value.mul(100))} %`;
  const line = (rule: string, value: string, look: WorkingLine['look']): WorkingLine => ({ rule, value, look, itemId: null, lines: [] });
  const { decimals } = facts.policy;
  return {
    who: 'The class',
    title: mean === null ? 'So far: nothing yet' : `So far: ${roundHalfUp(mean.mul(100), decimals)} %`,
    rule: 'the mean of the totals so far of everyone who has one',
    lines: [
      ...totals.map(({ person, total }) =>
        line(
          `${person.familyName}, ${person.givenName}`,
          total === null ? 'no total yet' : percent(total),
          total === null ? 'out' : 'plain',
        ),
      ),
      ...(mean === null ? [] : [line(`${counted.length} totals, their sum divided by ${counted.length}`, percent(mean), 'sum')]),
      ...(mean === null
        ? []
        : [
            line(
              `read to ${decimals === 1 ? 'one decimal' : `${decimals} decimals`}, half up`,
              `${roundHalfUp(mean.mul(100), decimals)} %`,
              'note',
            ),
          ]),
    ],
    inTotal: null,
  };
}

/** The working of any number of the gradebook: `soFar`, `floor`, `reach`, `category:ID`, `category:ID:PERIOD`, `period:ID` or `column:ID`. */
export function workingOf(facts: CourseFacts, person: FactPerson, of: string, now: number, releasedOnly: boolean): WorkingView {
  const who = `${person.givenName} ${person.familyName}`;
  const [kind, id = '', periodId = ''] = of.split(':');
  if (kind === 'column') {
    const column = facts.columns.find((i) => i.id === id && !i.isDraft);
    if (column === undefined) throw notFound();
    const cell = cellFor(facts, column, person, now, releasedOnly);
    const { due } = facts.datesFor(column.dated, person);
    const dueWords = due.at === null ? 'no due date' : `due ${dayAndTime(due.at, facts.zone, now)}, ${due.reason}`;
    const line = workingOfCell(toGraded(column), cell, atText(facts, now));
    return {
      who,
      title: `${column.title}: ${cell.result === null ? stateWords(cell) : line.value}`,
      rule: column.counts ? `${countOf(formatPoints(column.possible), 'point')}, ${dueWords}` : 'does not count toward the grade',
      lines: [line],
      inTotal: null,
    };
  }
  const calculation = calculate(facts, now, releasedOnly);
  const totals = calculation.totalsOf(calculation.cellsOf(person));
  if (kind === 'category') return categoryWorking(facts, who, totals.soFar, id, periodId, now);
  if (kind === 'period') return periodWorking(facts, who, totals.soFar, id, now);
  if (kind === 'soFar' || kind === 'floor' || kind === 'reach') return totalWorking(facts, who, totals[kind], now);
  throw notFound();
}
