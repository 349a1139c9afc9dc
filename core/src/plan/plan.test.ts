import fc from 'fast-check';
import { DateTime } from 'luxon';
import { OUTLINES, spread, starterOutline, teachingDays, termWeeks, type Term } from '../index.ts';

const ZONE = 'Europe/Lisbon';
const TERM: Term = {
  title: 'Autumn',
  startsOn: '2026-09-21',
  endsOn: '2027-01-03',
  meetingDays: [2, 4],
  holidays: [
    { title: 'break', startsOn: '2026-11-09', endsOn: '2026-11-15' },
    { title: 'a free Thursday', startsOn: '2026-10-01', endsOn: '2026-10-01' },
  ],
};
const day = (at: number): string => DateTime.fromMillis(at, { zone: ZONE }).toFormat('ccc yyyy-LL-dd HH:mm');

describe('spreading work over teaching days', () => {
  const settings = { term: { meetingDays: [1, 2, 3, 4], holidays: [] }, zone: ZONE, from: '2026-09-21', to: '2026-09-24', time: '18:00' };
  const items = (...minutes: number[]) => minutes.map((m, n) => ({ id: String(n), minutes: m }));
  const days = (...minutes: number[]): string[] => {
    const found = spread(items(...minutes), settings);
    return found.ok ? found.placements.map((p) => DateTime.fromISO(p.day).toFormat('ccc')) : [found.reason];
  };

  it('gives each day the same share of the minutes, in the order of the items', () => {
    expect(days(60, 60, 120)).toEqual(['Mon', 'Tue', 'Thu']);
    expect(days(30, 30, 30, 30)).toEqual(['Mon', 'Tue', 'Wed', 'Thu']);
    expect(days(10, 10, 10, 10, 10, 10, 10, 10)).toEqual(['Mon', 'Mon', 'Tue', 'Tue', 'Wed', 'Wed', 'Thu', 'Thu']);
    expect(days(240)).toEqual(['Thu']);
  });

  it('counts items without minutes as nothing, and all alike where none has any', () => {
    expect(days(0, 60, 0, 60)).toEqual(['Mon', 'Tue', 'Tue', 'Thu']);
    expect(days(0, 0)).toEqual(['Tue', 'Thu']);
  });

  it('keeps to meeting days and leaves holidays out', () => {
    const found = spread(items(1, 1, 1), { ...settings, term: TERM, from: '2026-11-03', to: '2026-11-19' });
    expect(found.ok && found.days).toEqual(['2026-11-03', '2026-11-05', '2026-11-17', '2026-11-19']);
    expect(found.ok && found.placements.map((p) => day(p.dueAt))).toEqual([
      'Thu 2026-11-05 18:00',
      'Tue 2026-11-17 18:00',
      'Thu 2026-11-19 18:00',
    ]);
    expect(teachingDays({ meetingDays: [], holidays: [] }, '2026-09-19', '2026-09-22')).toEqual(['2026-09-21', '2026-09-22']);
  });

  it.each([
    ['nothing chosen', [], settings, 'Choose at least one item'],
    ['dates the wrong way round', items(1), { ...settings, to: '2026-09-01' }, 'The last day is before the first'],
    ['a stretch without teaching', items(1), { ...settings, term: TERM, from: '2026-11-09', to: '2026-11-15' }, 'no teaching day'],
  ])('says what is wrong with %s', (_, chosen, wrong, reason) => {
    const found = spread(chosen, wrong);
    expect(found.ok).toBe(false);
    if (!found.ok) expect(found.reason).toContain(reason);
  });

  it('always keeps the order, ends on the last day, and no day has more than its share and one item', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 500 }), { minLength: 1, maxLength: 40 }),
        fc.integer({ min: 0, max: 90 }),
        (minutes, length) => {
          const to = DateTime.fromISO('2026-09-22').plus({ days: length }).toISODate() as string;
          const found = spread(items(...minutes), { ...settings, term: TERM, from: '2026-09-22', to });
          if (!found.ok) throw new Error(found.reason);
          const placed = found.placements.map((p) => p.dueAt);
          expect([...placed].sort((a, b) => a - b)).toEqual(placed);
          expect(found.placements.at(-1)?.day).toBe(found.days.at(-1));
          const whole = minutes.reduce((sum, m) => sum + m, 0);
          for (const one of found.days) {
            const own = found.placements.flatMap((p, n) => (p.day === one ? [minutes[n] as number] : []));
            const sum = own.reduce((s, m) => s + m, 0);
            expect(sum).toBeLessThanOrEqual(whole / found.days.length + Math.max(0, ...own) + 1e-9);
          }
        },
      ),
    );
  });

  it('holds the wall-clock time over a change of clocks', () => {
    const found = spread(items(1, 1, 1, 1), { ...settings, from: '2026-10-22', to: '2026-10-29' });
    expect(found.ok && found.placements.map((p) => day(p.dueAt).slice(-5))).toEqual(['18:00', '18:00', '18:00', '18:00']);
  });
});

describe('a starter outline', () => {
  it('by weeks has a unit for each teaching week, and none for the break', () => {
    const { units } = starterOutline('weeks', TERM, ZONE);
    expect(units).toHaveLength(14);
    expect(units.map((u) => u.title)).not.toContain('Week 8, from 9 November');
    expect(units[0]).toMatchObject({ title: 'Week 1, from 21 September' });
    expect(units[1]?.items[1]).toMatchObject({ title: 'Exercise 2', kind: 'assignment' });
    // The Thursday of week 2 is a holiday, so the last meeting day is the Tuesday.
    expect(day(units[1]?.items[1]?.dueAt ?? 0)).toBe('Tue 2026-09-29 23:59');
    expect(units.flatMap((u) => u.items.map((i) => i.title)).filter((t) => t.includes('paper'))).toEqual(['Mid-term paper', 'Final paper']);
  });

  it('by topics ends each topic with its share of the term, by projects each part of a project', () => {
    const topics = starterOutline('topics', TERM, ZONE);
    expect(topics.units).toHaveLength(6);
    expect(day(topics.units[5]?.items.at(-1)?.dueAt ?? 0)).toBe('Thu 2026-12-31 23:59');
    const projects = starterOutline('projects', TERM, ZONE);
    const dates = projects.units.flatMap((u) => u.items.flatMap((i) => (i.dueAt === null ? [] : [i.dueAt])));
    expect([...dates].sort((a, b) => a - b)).toEqual(dates);
    expect(projects.units[2]?.items.find((i) => i.title === 'Finished work')?.possible).toBe(200_000);
  });

  it.each(OUTLINES)('“%s” gives weights that add to 100, every item a category that is there, and dates inside the term', (kind) => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 30 }), fc.subarray([1, 2, 3, 4, 5, 6, 7], { minLength: 1 }), (weeks, meetingDays) => {
        const endsOn = DateTime.fromISO('2026-09-21').plus({ weeks }).minus({ days: 1 }).toISODate() as string;
        const term = { ...TERM, endsOn, meetingDays };
        const { units, categories } = starterOutline(kind, term, ZONE);
        expect(categories.reduce((sum, c) => sum + c.weightPercent, 0)).toBe(100);
        for (const item of units.flatMap((u) => u.items)) {
          if (item.category !== null) expect(categories.map((c) => c.title)).toContain(item.category);
          if (item.dueAt === null) continue;
          const iso = DateTime.fromMillis(item.dueAt, { zone: ZONE }).toISODate() as string;
          expect(iso >= term.startsOn && iso <= term.endsOn).toBe(true);
          expect(term.holidays.some((h) => h.startsOn <= iso && iso <= h.endsOn)).toBe(false);
        }
        if (kind === 'weeks') expect(units).toHaveLength(termWeeks(term).filter((w) => w.isTeaching).length);
      }),
      { numRuns: 60 },
    );
  });
});
