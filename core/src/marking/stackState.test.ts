import { stackState, type StackFacts } from './stackState.ts';

const facts: StackFacts = {
  handedInAt: null,
  isMissing: false,
  gradeState: null,
  isReleased: false,
  markState: null,
  pair: null,
  hasDraft: false,
  finishedAt: null,
  attempt: 0,
  revisionOf: null,
};

describe('where a submission stands in the stack', () => {
  it('is not begun, then missing once it is due', () => {
    expect(stackState(facts)).toBe('not begun');
    expect(stackState({ ...facts, isMissing: true })).toBe('missing');
    expect(stackState({ ...facts, gradeState: 'missing' })).toBe('missing');
  });
  it('waits, is in hand, is finished, is released', () => {
    expect(stackState({ ...facts, handedInAt: 1 })).toBe('waits');
    expect(stackState({ ...facts, handedInAt: 1, markState: 'draft' })).toBe('in hand');
    const finished: StackFacts = { ...facts, handedInAt: 1, markState: 'finished', finishedAt: 2, gradeState: 'scored' };
    expect(stackState(finished)).toBe('finished');
    expect(stackState({ ...finished, isReleased: true })).toBe('released');
    expect(stackState({ ...finished, isReleased: true, markState: 'draft' })).toBe('in hand');
  });
  it('is a draft while something is begun and not handed in, until it is missing', () => {
    expect(stackState({ ...facts, hasDraft: true })).toBe('draft');
    expect(stackState({ ...facts, hasDraft: true, isMissing: true })).toBe('missing');
    expect(stackState({ ...facts, hasDraft: true, handedInAt: 1 })).toBe('waits');
  });
  it('of two markers: in hand until both stand by their mark, then to be agreed', () => {
    const handed: StackFacts = { ...facts, handedInAt: 1 };
    expect(stackState({ ...handed, pair: { begun: 0, finished: 0 } })).toBe('waits');
    expect(stackState({ ...handed, pair: { begun: 1, finished: 0 } })).toBe('in hand');
    expect(stackState({ ...handed, pair: { begun: 2, finished: 1 } })).toBe('in hand');
    expect(stackState({ ...handed, pair: { begun: 2, finished: 2 } })).toBe('to agree');
    expect(stackState({ ...handed, pair: { begun: 2, finished: 2 }, markState: 'finished', finishedAt: 2, gradeState: 'scored' })).toBe(
      'finished',
    );
  });
  it('waits again when new work came after the mark', () => {
    expect(stackState({ ...facts, handedInAt: 3, markState: 'finished', finishedAt: 2, gradeState: 'scored', isReleased: true })).toBe(
      'waits',
    );
  });
  it('says that a revision is asked for until the new attempt comes', () => {
    const asked: StackFacts = { ...facts, handedInAt: 1, attempt: 1, revisionOf: 1 };
    expect(stackState(asked)).toBe('revision asked');
    expect(stackState({ ...asked, markState: 'finished', finishedAt: 2, gradeState: 'scored', isReleased: true })).toBe('revision asked');
    expect(stackState({ ...asked, handedInAt: 6, attempt: 2 })).toBe('waits');
    expect(stackState({ ...asked, handedInAt: 6, attempt: 2, markState: 'finished', finishedAt: 7, gradeState: 'scored' })).toBe(
      'finished',
    );
    expect(stackState({ ...asked, gradeState: 'exempt' })).toBe('exempt');
    expect(stackState({ ...facts, gradeState: 'judged', handedInAt: 1, markState: 'finished', finishedAt: 2 })).toBe('finished');
  });
  it('follows what the teacher says', () => {
    expect(stackState({ ...facts, handedInAt: 1, gradeState: 'exempt' })).toBe('exempt');
    expect(stackState({ ...facts, gradeState: 'unfinished' })).toBe('unfinished');
  });
});
