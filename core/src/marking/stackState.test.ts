import { stackState, type StackFacts } from './stackState.ts';

const facts: StackFacts = {
  handedInAt: null,
  isMissing: false,
  gradeState: null,
  isReleased: false,
  markState: null,
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
  it('waits, is a draft, is finished, is released', () => {
    expect(stackState({ ...facts, handedInAt: 1 })).toBe('waits');
    expect(stackState({ ...facts, handedInAt: 1, markState: 'draft' })).toBe('draft');
    const finished: StackFacts = { ...facts, handedInAt: 1, markState: 'finished', finishedAt: 2, gradeState: 'scored' };
    expect(stackState(finished)).toBe('finished');
    expect(stackState({ ...finished, isReleased: true })).toBe('released');
    expect(stackState({ ...finished, isReleased: true, markState: 'draft' })).toBe('draft');
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
