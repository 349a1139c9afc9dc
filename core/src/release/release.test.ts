import fc from 'fast-check';
import {
  EVERYONE,
  datesInForce,
  findRuleFaults,
  isForStudent,
  isInAudience,
  NO_OPENING,
  rulesWaitedFor,
  ruleInWords,
  visibilityFor,
  type ItemDates,
  type Opening,
  type RuledItem,
  type UnitDates,
} from '../index.ts';

const ada = { enrolmentId: 'ada', sectionId: 'morning' };
const none = { announced: null, opens: null, due: null, closes: null };
const day = (n: number): number => Date.parse('2026-10-01T08:00:00Z') + n * 86_400_000;

describe('whom something is for', () => {
  it('is everyone where nobody is named', () => {
    expect(isInAudience(EVERYONE, ada)).toBe(true);
    expect(isInAudience(EVERYONE, { enrolmentId: 'x', sectionId: null })).toBe(true);
  });
  it('is the sections and students named, and nobody else', () => {
    const audience = { sectionIds: ['distance'], enrolmentIds: ['ada'] };
    expect(isInAudience(audience, ada)).toBe(true);
    expect(isInAudience(audience, { enrolmentId: 'bo', sectionId: 'distance' })).toBe(true);
    expect(isInAudience(audience, { enrolmentId: 'bo', sectionId: 'morning' })).toBe(false);
    expect(isInAudience(audience, { enrolmentId: 'bo', sectionId: null })).toBe(false);
  });
  it('goes through a unit that is for them; a staff-only unit lets nobody through', () => {
    const distance = { isStaffOnly: false, audience: { sectionIds: ['distance'], enrolmentIds: [] } };
    expect(isForStudent(EVERYONE, [distance], ada)).toBe(false);
    expect(isForStudent(EVERYONE, [distance, { isStaffOnly: false, audience: EVERYONE }], ada)).toBe(true);
    expect(isForStudent(EVERYONE, [{ isStaffOnly: true, audience: EVERYONE }], ada)).toBe(false);
    expect(isForStudent(EVERYONE, [], ada)).toBe(true);
  });
});

describe('the dates of a unit', () => {
  const unit = (more: Partial<UnitDates>): UnitDates => ({ title: 'Oil', announced: null, opens: null, closes: null, ...more });
  const inForce = (dates: Partial<ItemDates>, units: UnitDates[], openUntil: number | null = null, days = 0) =>
    datesInForce({ ...none, ...dates }, [], days === 0 ? [] : [{ extraDays: days, timeMultiplier: 1, reason: '' }], 'UTC', null, {
      units,
      openUntil,
    });

  it('hold what stands in it: no earlier opening, no later closing', () => {
    const dates = inForce({ opens: day(1), closes: day(20) }, [unit({ opens: day(5), closes: day(10) })]);
    expect(dates.opens).toEqual({ at: day(5), reason: 'with the unit “Oil”' });
    expect(dates.closes).toEqual({ at: day(10), reason: 'with the unit “Oil”' });
  });
  it('leave alone what is narrower already', () => {
    const dates = inForce({ opens: day(7), closes: day(9) }, [unit({ opens: day(5), closes: day(10) })]);
    expect([dates.opens.reason, dates.closes.reason]).toEqual(['as for everyone', 'as for everyone']);
  });
  it('of several units the kindest holds', () => {
    const two = [unit({ opens: day(5), closes: day(10) }), unit({ title: 'Gears', opens: day(3), closes: day(12) })];
    expect([inForce({}, two).opens.at, inForce({}, two).closes.at]).toEqual([day(3), day(12)]);
    expect(inForce({}, [...two, unit({})]).opens.at).toBeNull();
  });
  it('give way to what is set for one student, and move with an arrangement', () => {
    const own = { ...none, opens: day(1), level: 'person' as const, name: 'Ada' };
    expect(datesInForce(none, [own], [], 'UTC', null, { units: [unit({ opens: day(5) })], openUntil: null }).opens.at).toBe(day(1));
    expect(inForce({ closes: day(20) }, [unit({ closes: day(10) })], null, 2).closes.at).toBe(day(12));
  });
  it('a hand keeps it open until its time, and never shortens', () => {
    expect(inForce({ closes: day(4) }, [], day(6)).closes).toEqual({ at: day(6), reason: 'opened by hand until then' });
    expect(inForce({ closes: day(9) }, [], day(6)).closes.at).toBe(day(9));
  });
});

describe('what is visible', () => {
  const dates = datesInForce({ ...none, opens: day(5), closes: day(9) }, [], [], 'UTC', null);
  const doors = { isOpenedByHand: false, isWaiting: false };
  it('goes by the hand that opens it before dates and rules, but never a draft', () => {
    expect(visibilityFor(false, dates, day(1), { ...doors, isOpenedByHand: true })).toBe('open');
    expect(visibilityFor(false, dates, day(6), { isOpenedByHand: true, isWaiting: true })).toBe('open');
    expect(visibilityFor(true, dates, day(6), { ...doors, isOpenedByHand: true })).toBe('hidden');
  });
  it('is announced while rules are waited for, also after closing', () => {
    expect(visibilityFor(false, dates, day(6), { ...doors, isWaiting: true })).toBe('announced');
    expect(visibilityFor(false, dates, day(10), { ...doors, isWaiting: true })).toBe('announced');
    expect(visibilityFor(false, dates, day(6), doors)).toBe('open');
  });
});

describe('opening rules', () => {
  const opening: Opening = {
    needs: 'all',
    rules: [
      { kind: 'done', itemId: 'a' },
      { kind: 'score', itemId: 'b', least: 12_000 },
    ],
  };
  const facts = (score: number | null, done: string[] = [], now = day(0)) => ({
    now,
    isDone: (id: string) => done.includes(id),
    resultOf: (id: string) => (id === 'b' ? score : null),
  });
  it('wait for what is not so yet, comparing scores exactly', () => {
    expect(rulesWaitedFor(opening, facts(11_999, ['a']))).toEqual([opening.rules[1]]);
    expect(rulesWaitedFor(opening, facts(12_000, ['a']))).toEqual([]);
    expect(rulesWaitedFor(opening, facts(null))).toHaveLength(2);
  });
  it('with “any” one is enough, and no rule at all is open', () => {
    expect(rulesWaitedFor({ ...opening, needs: 'any' }, facts(12_000))).toEqual([]);
    expect(rulesWaitedFor({ ...opening, needs: 'any' }, facts(null))).toHaveLength(2);
    expect(rulesWaitedFor({ ...NO_OPENING, needs: 'any' }, facts(null))).toEqual([]);
  });
  it('wait for a time', () => {
    const timed: Opening = { needs: 'all', rules: [{ kind: 'date', at: day(3) }] };
    expect([rulesWaitedFor(timed, facts(null, [], day(2))).length, rulesWaitedFor(timed, facts(null, [], day(3))).length]).toEqual([1, 0]);
  });
  it('read as sentences that name nothing hidden', () => {
    const words = (title: string | null) => opening.rules.map((r) => ruleInWords(r, () => title, String));
    expect(words('Gears')).toEqual(['“Gears” is done', 'you have at least 12 points in “Gears”']);
    expect(words(null)[0]).toBe('something that is not shown yet is done');
  });
});

describe('rules that can never be met', () => {
  const item = (id: string, rules: Opening['rules'] = [], more: Partial<RuledItem> = {}): RuledItem => ({
    id,
    title: id,
    opening: { needs: 'all', rules },
    isDraft: false,
    isStaffOnly: false,
    canBeDone: true,
    possible: 10_000,
    closesAt: null,
    opensAt: null,
    ...more,
  });
  const done = (itemId: string) => ({ kind: 'done', itemId }) as const;
  const texts = (...items: RuledItem[]): string[] => findRuleFaults(items).map((f) => f.text);

  it('a circle names each item in it, with the way round', () => {
    const found = texts(item('A', [done('B')]), item('B', [done('C')]), item('C', [done('A')]), item('D', [done('A')]));
    expect(found).toHaveLength(3);
    expect(found[0]).toContain('it waits for “B”, which waits for “C”, which waits for “A”');
  });
  it('“any” is no circle when another rule opens the door', () => {
    const open = item('A', [done('B'), { kind: 'date', at: day(1) }], {
      opening: { needs: 'any', rules: [done('B'), { kind: 'date', at: day(1) }] },
    });
    expect(texts(open, item('B', [done('A')]))).toEqual([]);
  });
  it.each([
    ['gone', item('A', [done('Z')]), 'no longer here'],
    ['itself', item('A', [done('A')]), 'waits for itself'],
    ['a time after its closing', item('A', [{ kind: 'date', at: day(9) }], { closesAt: day(5) }), 'after its own closing'],
    ['more points than there are', item('A', [{ kind: 'score', itemId: 'B', least: 11_000 }]), 'asks for 11 points in “B”, which has 10'],
    ['what opens after it closes', item('A', [done('B')], { closesAt: day(1) }), 'opens only after this has closed'],
  ])('%s', (_, one, words) => {
    expect(texts(one, item('B', [], { opensAt: day(2) })).join()).toContain(words);
  });
  it('staff-only, never done, no points', () => {
    expect(texts(item('A', [done('B')]), item('B', [], { isStaffOnly: true })).join()).toContain('staff only');
    expect(texts(item('A', [done('B')]), item('B', [], { canBeDone: false })).join()).toContain('never happens by itself');
    expect(texts(item('A', [{ kind: 'score', itemId: 'B', least: 0 }]), item('B', [], { possible: 0 })).join()).toContain('has no points');
  });
  it('rules that only look back along the Plan never fault, whatever they are', () => {
    fc.assert(
      fc.property(fc.array(fc.array(fc.nat(50), { maxLength: 3 }), { maxLength: 12 }), fc.boolean(), (lists, any) => {
        const items = lists.map((list, n) => {
          const rules = n === 0 ? [] : list.map((k) => done(`i${k % n}`));
          return item(`i${n}`, rules, { opening: { needs: any ? 'any' : 'all', rules } });
        });
        expect(findRuleFaults(items)).toEqual([]);
      }),
    );
  });
  it('every stuck set has at least one fault named', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(6), { minLength: 1, maxLength: 7 }), (targets) => {
        const items = targets.map((t, n) => item(`i${n}`, [done(`i${t % targets.length}`)]));
        expect(findRuleFaults(items).length).toBeGreaterThan(0);
      }),
    );
  });
});
