import fc from 'fast-check';
import { compareHeld, type HeldGrade } from './compare.ts';
import { compareLists } from './compareLists.ts';
import { offerLastDays } from './lastDay.ts';
import { gradeFaults, translateLetter, translationGaps, type RegistrarRules, type SentGrade } from './rules.ts';
import {
  HELD,
  mayBeStored,
  REFUSALS,
  refusalWords,
  ROW_STATES,
  rowAfter,
  sendPause,
  UNDER_WAY,
  type Reply,
  type RowState,
} from './sending.ts';

const letter = (name: string, more: Partial<RegistrarRules['letters'][number]> = {}) => ({
  letter: name,
  needsLastDay: false,
  isIncomplete: false,
  ...more,
});
const rules: RegistrarRules = {
  letters: [letter('A'), letter('B'), letter('C'), letter('F', { needsLastDay: true }), letter('I', { isIncomplete: true })],
  takesNumber: false,
  takesLastDay: true,
  takesExpiry: true,
  takesLapse: true,
};

describe('the registrar’s letters', () => {
  it('are found by the school’s table, else by the same spelling', () => {
    expect(translateLetter('Good', { Good: 'B' }, rules)).toBe('B');
    expect(translateLetter('A', {}, rules)).toBe('A');
    expect(translateLetter('a', {}, rules)).toBeNull();
    expect(translateLetter('Sound', { Good: 'B' }, rules)).toBeNull();
    // What stands in the table is meant, also where the letter itself would be known.
    expect(translateLetter('A', { A: 'B' }, rules)).toBe('B');
    expect(translateLetter('toString', {}, rules)).toBeNull();
  });

  it('leave gaps that are named, with what is wrong of each', () => {
    expect(translationGaps(['Good', 'Sound', 'A', 'Weak'], { Good: 'B', Weak: 'E' }, rules)).toEqual([
      { label: 'Sound', text: '“Sound” has no letter of the registrar.' },
      { label: 'Weak', text: '“Weak” is to be sent as “E”, which the registrar does not take.' },
    ]);
  });
});

describe('a grade that is to be sent', () => {
  const days = { startsOn: '2026-09-21', today: '2026-12-18' };
  const grade = (name: string, more: Partial<SentGrade> = {}): SentGrade => ({
    letter: name,
    lastDay: null,
    expiresOn: null,
    lapsesTo: null,
    ...more,
  });
  it.each([
    ['a letter that is his', grade('B'), []],
    ['a letter in small', grade('b'), [['letter', 'He writes it “B”.']]],
    ['a letter that is none of his', grade('E'), [['letter', 'He takes A, B, C, F, I.']]],
    ['a letter that needs a last day', grade('F'), [['lastDay', 'F needs the last day']]],
    ['a last day still to come', grade('F', { lastDay: '2026-12-19' }), [['lastDay', 'is still to come']]],
    ['a last day before the term', grade('F', { lastDay: '2026-09-20' }), [['lastDay', 'is before the term']]],
    ['the first and the last day that can be', grade('F', { lastDay: '2026-09-21' }), []],
    [
      'an incomplete with nothing',
      grade('I'),
      [
        ['expiresOn', 'needs the day'],
        ['lapsesTo', 'needs the letter it becomes'],
      ],
    ],
    ['an incomplete whose day has passed', grade('I', { expiresOn: '2026-12-18', lapsesTo: 'F' }), [['expiresOn', 'has passed']]],
    [
      'an incomplete that becomes itself',
      grade('I', { expiresOn: '2027-02-01', lapsesTo: 'I' }),
      [['lapsesTo', 'cannot be what I becomes']],
    ],
    ['an incomplete that is whole', grade('I', { expiresOn: '2027-02-01', lapsesTo: 'F' }), []],
  ])('%s', (_, sent, want) => {
    const found = gradeFaults(sent, rules, days);
    expect(found.map((f) => f.field)).toEqual(want.map(([field]) => field));
    want.forEach(([, text], n) => expect(found[n]?.text).toContain(text));
  });

  it('needs nothing that this registrar does not take', () => {
    const bare = { ...rules, takesLastDay: false, takesExpiry: false, takesLapse: false };
    expect(gradeFaults(grade('F'), bare, days)).toEqual([]);
    expect(gradeFaults(grade('I'), bare, days)).toEqual([]);
  });
});

describe('the last day of attendance', () => {
  it('is offered by the latest of each kind, within the term and not still to come', () => {
    const offered = offerLastDays(
      [
        { kind: 'visit', title: 'Chains', day: '2026-11-03' },
        { kind: 'visit', title: 'Springs', day: '2026-10-01' },
        { kind: 'hand-in', title: 'Report', day: '2026-10-28' },
        { kind: 'post', title: 'Talk', day: '2026-09-01' },
        { kind: 'answer', title: 'Quiz', day: '2026-12-24' },
      ],
      '2026-09-21',
      '2026-12-18',
    );
    expect(offered.map((o) => [o.kind, o.day])).toEqual([
      ['visit', '2026-11-03'],
      ['hand-in', '2026-10-28'],
    ]);
    expect(offerLastDays([], '2026-09-21', '2026-12-18')).toEqual([]);
  });
});

describe('a row on its way', () => {
  const replies: readonly (readonly [Reply, RowState])[] = [
    [{ kind: 'accepted', receipt: 'R-1' }, 'accepted'],
    [{ kind: 'refused', code: 'window-closed', text: 'closed' }, 'refused'],
    [{ kind: 'no connection' }, 'waiting'],
    [{ kind: 'no answer' }, 'unknown'],
    [{ kind: 'not seen' }, 'unknown'],
  ];
  it.each(replies)('after %j is %s', (reply, state) => {
    const after = rowAfter(reply, 2, false);
    expect(after.state).toBe(state);
    // Only what is not settled is tried again by itself.
    expect(after.pause === null).toBe(['accepted', 'refused'].includes(state));
  });

  it('is never sent blindly where it may be stored', () => {
    expect((Object.keys(ROW_STATES) as RowState[]).filter((s) => !mayBeStored(s))).toEqual(['waiting']);
    expect(UNDER_WAY.some((s) => HELD.includes(s))).toBe(false);
  });

  it('is tried again after a minute, then twice as long each time, half an hour at most', () => {
    expect([1, 2, 3, 6, 40].map((n) => sendPause(n) / 60_000)).toEqual([1, 2, 4, 30, 30]);
  });

  it('that may be stored stays unknown while there is no connection, and is not sent anew', () => {
    expect(rowAfter({ kind: 'no connection' }, 2, true).state).toBe('unknown');
  });

  it('is accepted exactly once, whatever goes wrong between', () => {
    // A registrar that may lose the connection, store without answering, or answer; and the steps of a sender over it.
    fc.assert(
      fc.property(fc.array(fc.constantFrom('ok', 'refuses', 'silent', 'stored, then lost'), { maxLength: 12 }), (moods) => {
        const stored: string[] = [];
        const reach = (mood: string, act: () => Reply): Reply => {
          if (mood === 'refuses') return { kind: 'no connection' };
          if (mood === 'silent') return { kind: 'no answer' };
          const reply = act();
          return mood === 'ok' ? reply : { kind: 'no answer' };
        };
        const send = (): Reply => {
          stored.push('key');
          return { kind: 'accepted', receipt: 'R' };
        };
        const ask = (): Reply => (stored.length > 0 ? { kind: 'accepted', receipt: 'R' } : { kind: 'not seen' });
        let state: RowState = 'waiting';
        for (const [n, mood] of [...moods, 'ok', 'ok'].entries()) {
          if (state === 'accepted') break;
          const isAsked = mayBeStored(state);
          let reply = isAsked ? reach(mood, ask) : reach(mood, send);
          if (reply.kind === 'not seen') reply = reach(mood, send);
          ({ state } = rowAfter(reply, n + 1, isAsked));
        }
        expect([state, stored.length]).toEqual(['accepted', 1]);
      }),
    );
  });

  it('that is refused says what it means and what to do, also by a code that is not known', () => {
    for (const { says, mend } of Object.values(REFUSALS)) expect([says.endsWith('.'), mend.endsWith('.')]).toEqual([true, true]);
    expect(refusalWords('odd', 'Not today.')).toEqual({ says: 'Not today.', mend: 'Ask the registrar what he needs.' });
    expect(refusalWords('odd', '').says).toContain('(odd)');
  });
});

describe('the list of a section', () => {
  it('is held against the registrar’s: who is here alone, and who with him alone', () => {
    const student = (key: string) => ({ key, name: key.toUpperCase() });
    expect(compareLists(['a', 'b'].map(student), ['b', 'c'].map(student))).toEqual({ onlyHere: ['A'], onlyThere: ['C'] });
    expect(compareLists(['a'].map(student), ['a'].map(student))).toEqual({ onlyHere: [], onlyThere: [] });
  });
});

describe('what the registrar holds', () => {
  const held = (studentKey: string, name: string, more: Partial<HeldGrade> = {}): HeldGrade => ({
    ...{ studentKey, letter: name, percent: null, lastDay: null, expiresOn: null, lapsesTo: null },
    ...more,
  });
  it('is compared with what was agreed, field by field, as far as he takes it', () => {
    const agreed = [held('a', 'B'), held('b', 'F', { lastDay: '2026-11-03', percent: '41.0' }), held('c', 'A')];
    const there = [held('a', 'C'), held('b', 'F', { lastDay: '2026-11-04' }), held('d', 'A')];
    expect(compareHeld(agreed, there, new Set(['lastDay']))).toEqual([
      { studentKey: 'a', field: 'letter', here: 'B', there: 'C' },
      { studentKey: 'b', field: 'lastDay', here: '2026-11-03', there: '2026-11-04' },
      { studentKey: 'c', field: 'missing there', here: 'A', there: null },
      { studentKey: 'd', field: 'not agreed here', here: null, there: 'A' },
    ]);
    expect(compareHeld(agreed.slice(0, 1), agreed.slice(0, 1), new Set())).toEqual([]);
  });
});
