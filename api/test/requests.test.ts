import type Joi from 'joi';
import * as api from '../src/index.ts';

const ID = '7b1c1a34-7a34-4c7e-9a51-2d6a4f2f9a10';
/** What the server says of a body: each fault by its field, or null where it takes it. */
function faults(schema: Joi.ObjectSchema, body: unknown): Record<string, string> | null {
  const { error } = schema.validate(body, api.validationOptions);
  return error === undefined ? null : Object.fromEntries(error.details.map((d) => [d.path.join('.'), d.message]));
}

describe('an item', () => {
  const change = (more: object): object => ({ version: 1, ...more });

  it.each([
    ['a title', { title: 'Escapement drawing' }],
    ['no dates', { announcedAt: null, opensAt: null, dueAt: null, closesAt: null }],
    ['points to a thousandth', { possible: 12_345 }],
    ['no points', { possible: 0 }],
    ['every rule of being done', { doneRule: 'handed in' }],
    ['a release by date', { releaseMode: 'date', releaseAt: '2026-12-01T10:00:00Z' }],
  ])('takes %s', (_, more) => {
    expect(faults(api.itemChange, change(more))).toBeNull();
  });

  it.each([
    ['title', '', 'Title is empty. Type something.'],
    ['title', 'x'.repeat(161), 'Title is too long: it takes at most 160 characters.'],
    ['possible', -1, 'Points is -1; it must be at least 0.'],
    ['possible', 10_000_001, 'Points is 10000001; it must be at most 10000000.'],
    ['possible', 0.5, 'Points is 0.5; it must be a whole number.'],
    ['possible', 'many', 'Points is “many”, which is not a number.'],
    ['dueAt', 'next Friday', 'Due is “next Friday”, which is not a date and time.'],
    ['estimatedMinutes', 6001, 'Minutes for a student is 6001; it must be at most 6000.'],
    ['categoryId', 'bench', 'Category is not an identifier.'],
    ['doneRule', 'guessed', 'Done when is “guessed”, which is not one of the choices.'],
    ['colour', 'red', 'colour is not a field here.'],
  ])('refuses %s = %p, naming field, value and mend', (field, value, words) => {
    expect(faults(api.itemChange, change({ [field]: value }))).toEqual({ [field]: words });
  });

  it('needs the version it was read with, so that nobody is overwritten', () => {
    expect(faults(api.itemChange, { title: 'New' })).toEqual({ version: 'version is missing.' });
  });

  it('names all faults at once', () => {
    expect(Object.keys(faults(api.itemChange, change({ title: '', possible: -1, dueAt: 'x' })) ?? {})).toEqual([
      'title',
      'possible',
      'dueAt',
    ]);
  });
});

describe('a person', () => {
  const person = { email: 'new@example.org', givenName: 'Ada', familyName: 'Okoro', password: 'a long enough one' };
  it('is taken whole', () => {
    expect(faults(api.newPerson, person)).toBeNull();
  });
  it.each([
    ['email', 'no address', /not an e-mail address/],
    ['givenName', ' ', /is empty/],
    ['familyName', 'x'.repeat(81), /at most 80/],
    ['password', 'short', /at least 10/],
  ])('is refused with %s = %p', (field, value, words) => {
    expect(faults(api.newPerson, { ...person, [field]: value })?.[field]).toMatch(words);
  });
});

describe('a term', () => {
  const term = { title: 'Autumn', startsOn: '2026-09-21', endsOn: '2027-01-03', meetingDays: [1, 3], holidays: [] };
  it('takes calendar days and meeting days from Monday 1 to Sunday 7', () => {
    expect(faults(api.newTerm, term)).toBeNull();
    expect(Object.keys(faults(api.newTerm, { ...term, meetingDays: [0, 8] }) ?? {})).toEqual(['meetingDays.0', 'meetingDays.1']);
  });
  it.each(['21.9.2026', '2026-9-21', '2026-09-21T00:00:00Z', ''])('refuses %p as a day', (startsOn) => {
    expect(Object.keys(faults(api.newTerm, { ...term, startsOn }) ?? {})).toEqual(['startsOn']);
  });
});

describe('a rubric', () => {
  const level = (points: number) => ({ id: null, title: '', descriptor: '', points });
  const criterion = (more: object = {}) => ({ id: null, title: 'Evidence', levels: [level(0), level(5000)], ...more });
  it('takes criteria with at least two levels', () => {
    expect(faults(api.rubricChange, { version: 1, criteria: [criterion()] })).toBeNull();
    expect(Object.keys(faults(api.rubricChange, { version: 1, criteria: [criterion({ levels: [level(0)] })] }) ?? {})).toEqual([
      'criteria.0.levels',
    ]);
  });
  it('refuses more criteria or levels than a marker could choose by key', () => {
    expect(faults(api.rubricChange, { version: 1, criteria: Array.from({ length: 13 }, () => criterion()) })).not.toBeNull();
    expect(
      faults(api.rubricChange, { version: 1, criteria: [criterion({ levels: Array.from({ length: 9 }, (_, n) => level(n)) })] }),
    ).not.toBeNull();
  });
});

describe('a cell of the gradebook', () => {
  const cell = { columnId: ID, enrolmentId: ID, state: 'scored', raw: 45_125, seenEventId: null, isAboveConfirmed: false, reason: '' };
  it('takes a score, a state without one, and nothing', () => {
    expect(faults(api.cellChange, cell)).toBeNull();
    for (const state of ['exempt', 'missing', 'unfinished', null]) expect(faults(api.cellChange, { ...cell, state, raw: null })).toBeNull();
  });
  it.each([
    ['raw', -500],
    ['raw', 1.25],
    ['state', 'late'],
    ['columnId', 'drawing'],
    ['reason', 'x'.repeat(601)],
  ])('refuses %s = %p', (field, value) => {
    expect(Object.keys(faults(api.cellChange, { ...cell, [field]: value }) ?? {})).toEqual([field]);
  });
});

describe('a note in the margin', () => {
  const note = (anchor: object) => ({ id: ID, attemptId: ID, fileId: null, quote: 'worn', body: 'How do you know?', anchor });
  it('is tied to words, or to boxes on a page', () => {
    expect(faults(api.newNote, note({ kind: 'text', from: 3, to: 9 }))).toBeNull();
    expect(faults(api.newNote, note({ kind: 'pdf', page: 1, boxes: [{ x: 0.1, y: 0.2, w: 0.3, h: 0.02 }] }))).toBeNull();
  });
  it.each([
    ['nothing', {}],
    ['a page before the first', { kind: 'pdf', page: 0, boxes: [{ x: 0.1, y: 0.2, w: 0.3, h: 0.02 }] }],
    ['another kind of place', { kind: 'sound', from: 3, to: 9 }],
  ])('is refused when tied to %s', (_, anchor) => {
    expect(faults(api.newNote, note(anchor))).not.toBeNull();
  });
});

describe('an arrangement', () => {
  const arrangement = { extraDays: 2, timeMultiplier: 1250, extraAttempts: 0, reason: '' };
  it('stands with the member it is for', () => {
    expect(faults(api.memberChange, { version: 1, arrangements: [arrangement] })).toBeNull();
    expect(faults(api.memberChange, { version: 1, arrangements: Array.from({ length: 6 }, () => arrangement) })).not.toBeNull();
  });
});
