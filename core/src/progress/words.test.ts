import fc from 'fast-check';
import {
  findWords,
  kindOfRule,
  preparedWord,
  ruleBegins,
  WORD_RULE_NAMES,
  type WordFacts,
  type WordRule,
  type WordSettings,
} from './words.ts';

const nobody: WordFacts = { enrolmentId: 'a', pieces: [], results: [], silentDays: 0, soFar: null, waiting: [], attempts: [] };
const student = (facts: Partial<WordFacts>): WordFacts => ({ ...nobody, ...facts });
/** Only these rules are on, as they begin. */
const only = (...rules: readonly WordRule[]): WordSettings =>
  Object.fromEntries(WORD_RULE_NAMES.map((rule) => [rule, { ...ruleBegins(rule), isOn: rules.includes(rule) }])) as unknown as WordSettings;
const reasons = (people: readonly WordFacts[], ...rules: readonly WordRule[]): string[] =>
  findWords(people, only(...rules)).map((f) => f.reason);
const pieces = (...missing: readonly boolean[]): WordFacts['pieces'] =>
  missing.map((isMissing, n) => ({ title: `Task ${n + 1}`, isMissing }));
const results = (...standards: readonly (number | null)[]): WordFacts['results'] =>
  standards.map((standard) => ({ share: 0.7 + (standard ?? 0) / 10, standard }));

describe('missing work', () => {
  it('is found by how many of the last that were due', () => {
    expect(reasons([student({ pieces: pieces(true, false, true, false, true) })], 'missing')).toEqual([
      '2 of the last 4 missing: “Task 3”, “Task 5”',
    ]);
    expect(reasons([student({ pieces: pieces(true, true, false, false, false, true) })], 'missing')).toEqual([]);
  });
  it('names the last three of many', () => {
    expect(reasons([student({ pieces: pieces(true, true, true, true) })], 'missing')).toEqual([
      '4 of the last 4 missing: “Task 2”, “Task 3”, “Task 4” and others',
    ]);
  });
  it('is nothing where nothing was due', () => {
    expect(reasons([nobody], 'missing')).toEqual([]);
  });
});

describe('silence', () => {
  const others = [1, 2, 2, 3].map((silentDays) => student({ silentDays, enrolmentId: String(silentDays) }));
  it('is held against the class', () => {
    expect(reasons([student({ silentDays: 19 }), ...others], 'silence')).toEqual([
      'nothing recorded for 19 days; half of the class was here within 2 days',
    ]);
    expect(reasons([student({ silentDays: 7 }), ...others], 'silence')).toEqual([]);
  });
  it('is nobody’s where the whole class is silent, as in a break', () => {
    expect(
      reasons(
        [9, 10, 11, 12].map((silentDays) => student({ silentDays })),
        'silence',
      ),
    ).toEqual([]);
  });
  it('has words for who was never here, and none where nobody ever was', () => {
    expect(reasons([student({ silentDays: null }), ...others], 'silence')).toEqual([
      'has never been here; half of the class was here within 2 days',
    ]);
    expect(reasons([student({ silentDays: null })], 'silence')).toEqual([]);
  });
});

describe('a fall', () => {
  it('is from one’s own level, not from the class’s', () => {
    expect(reasons([student({ results: results(0.6, 0.7, 0.6, -0.5, -0.4, -0.6) })], 'fall')).toEqual([
      'last three results 1.1 standard deviations under their own level, 11 percentage points',
    ]);
    expect(reasons([student({ results: results(-2, -2, -2, -2, -2, -2) })], 'fall')).toEqual([]);
  });
  it('takes five results that can be standardised', () => {
    expect(reasons([student({ results: results(2, null, null, -2, -2, -2) })], 'fall')).toEqual([]);
  });
});

describe('the other rules', () => {
  it('find who is below the line, and not who has no total', () => {
    expect(reasons([student({ soFar: '59.9' }), student({ soFar: '60.0' }), student({ soFar: null })], 'below')).toEqual([
      '59.9 % so far, below 60 %',
    ]);
  });
  it('find what is due soon and not begun', () => {
    const waiting = [
      { title: 'Report', inDays: 0.4 },
      { title: 'Log', inDays: 1.5 },
      { title: 'Paper', inDays: 9 },
    ];
    expect(reasons([student({ waiting })], 'not begun')).toEqual(['“Report” is due within a day and not begun, and 1 more']);
    expect(reasons([student({ waiting: waiting.slice(1, 2) })], 'not begun')).toEqual(['“Log” is due in 1 day and not begun']);
    expect(reasons([student({ waiting: waiting.slice(2) })], 'not begun')).toEqual([]);
  });
  it('find who is done implausibly fast, where enough took it to say so', () => {
    const attempt = { title: 'Check', minutes: 0.6, usual: 12 };
    expect(reasons([student({ attempts: [attempt] })], 'fast')).toEqual([
      '“Check” done in less than a minute; half of the class took 12 minutes or more',
    ]);
    expect(reasons([student({ attempts: [{ ...attempt, usual: null }] })], 'fast')).toEqual([]);
    expect(reasons([student({ attempts: [{ ...attempt, minutes: 2.4 }] })], 'fast')).toEqual([]);
  });
  it('find who is far above in the last five', () => {
    expect(reasons([student({ results: results(-3, 1.5, 1.5, 1.5, 1.5, 1.5) })], 'far above')).toEqual([
      'the last five 1.5 standard deviations over the class: ready for more',
    ]);
    expect(reasons([student({ results: results(2, 2, 2, 2) })], 'far above')).toEqual([]);
  });
});

describe('who needs a word', () => {
  it('is ordered by urgency, and a rule that is off finds nobody', () => {
    const people = [
      student({ enrolmentId: 'above', results: results(2, 2, 2, 2, 2) }),
      student({ enrolmentId: 'missing', pieces: pieces(true, true, true) }),
      student({ enrolmentId: 'below', soFar: '40.0' }),
    ];
    expect(findWords(people, only('missing', 'below', 'far above')).map((f) => f.enrolmentId)).toEqual(['missing', 'below', 'above']);
    expect(findWords(people, only())).toEqual([]);
  });
  it('never says anything that is no number', () => {
    const number = fc.double({ min: -3, max: 3, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            enrolmentId: fc.string(),
            pieces: fc.array(fc.record({ title: fc.string(), isMissing: fc.boolean() }), { maxLength: 8 }),
            results: fc.array(fc.record({ share: number, standard: fc.option(number) }), { maxLength: 9 }),
            silentDays: fc.option(fc.nat(40)),
            soFar: fc.option(fc.nat(1000).map((n) => (n / 10).toFixed(1))),
            waiting: fc.array(fc.record({ title: fc.string(), inDays: fc.double({ min: 0, max: 30, noNaN: true }) }), { maxLength: 3 }),
            attempts: fc.array(fc.record({ title: fc.string(), minutes: fc.nat(60), usual: fc.option(fc.nat(60)) }), { maxLength: 3 }),
          }),
          { maxLength: 12 },
        ),
        (people) => {
          for (const found of findWords(people, only(...WORD_RULE_NAMES))) {
            expect(found.reason).not.toContain('NaN');
            expect(Number.isFinite(found.urgency)).toBe(true);
          }
        },
      ),
    );
  });
  it.each(WORD_RULE_NAMES)('the rule “%s” begins within its limits, and has a slip and a prepared text', (rule) => {
    const kind = kindOfRule(rule);
    const begins = ruleBegins(rule);
    for (const [value, limits] of [
      [begins.threshold, kind.threshold],
      [begins.of, kind.of],
    ] as const)
      if (limits !== undefined) expect(value !== null && value >= limits.least && value <= limits.most).toBe(true);
    expect(kind.slip(begins.threshold)).not.toBe('');
    const { subject, text } = preparedWord(rule, 'Fidel');
    expect(subject).not.toBe('');
    expect(text.startsWith('Dear Fidel,\n\n')).toBe(true);
    expect(preparedWord(rule, null).text.startsWith('Good day,')).toBe(true);
  });
  it('writing without a rule begins with the greeting alone', () => {
    expect(preparedWord(null, 'Aino')).toEqual({ subject: '', text: 'Dear Aino,\n\n' });
  });
});
