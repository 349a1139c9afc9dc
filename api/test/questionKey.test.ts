import { KIND_WORDS, newKey, type QuestionKey, type QuestionKind } from '@rosemary/core';
import { questionKey } from '../src/question.ts';

const KINDS = Object.keys(KIND_WORDS) as QuestionKind[];
let ids = 0;
const newId = (): string => `id${(ids += 1)}`;
const faultOf = (key: unknown): string | null => questionKey().required().validate(key).error?.message ?? null;
/** A key with one field less, wherever it stands at the top. */
const without = (key: QuestionKey, field: string): object => Object.fromEntries(Object.entries(key).filter(([name]) => name !== field));

/** Something that is wrong in the shape of a key of each kind; null where a key is its kind alone. */
const WRONG: { readonly [kind in QuestionKind]: object | null } = {
  single: { choices: 'lever' },
  truth: { hasDontKnow: 'sometimes' },
  several: { rule: 'by luck' },
  numeric: { rules: { accepted: [{ value: '1', tolerance: { kind: 'roughly' }, share: 100_000 }] } },
  calculated: { question: { parameters: [], conditions: [], formula: 3 } },
  short: { rules: { accepted: [{ text: 'pallet' }] } },
  blanks: { blanks: [{ id: 'one', weight: 100_001, rules: null }] },
  matching: { pairs: [{ left: 'lever' }] },
  ordering: { order: 'wind, set, case' },
  hotspot: { regions: [{ id: 'r', share: 1, region: { shape: 'star' } }] },
  essay: null,
  file: null,
};

describe.each(KINDS)('a key of the kind %s', (kind) => {
  it('is taken as a new question begins with it', () => {
    expect(faultOf(newKey(kind, newId))).toBeNull();
  });

  it('has every field of its kind and no other', () => {
    const key = newKey(kind, newId);
    for (const field of Object.keys(key).filter((name) => name !== 'kind'))
      expect({ field, fault: faultOf(without(key, field)) }).not.toEqual({ field, fault: null });
    expect(faultOf({ ...key, secret: true })).not.toBeNull();
  });

  it('is refused where its shape is another', () => {
    const wrong = WRONG[kind];
    if (wrong !== null) expect(faultOf({ ...newKey(kind, newId), ...wrong })).not.toBeNull();
    expect(faultOf({ ...newKey(kind, newId), kind: 'riddle' })).not.toBeNull();
  });

  it('is not taken for a key of another kind that has more in it', () => {
    const fuller = KINDS.filter((other) => Object.keys(newKey(other, newId)).some((field) => !(field in newKey(kind, newId))));
    for (const other of fuller) expect({ other, fault: faultOf({ ...newKey(other, newId), kind }) }).not.toEqual({ other, fault: null });
  });
});

describe('keys', () => {
  it('are refused when they are none', () => {
    for (const none of [null, undefined, 'single', [], {}]) expect(faultOf(none)).not.toBeNull();
  });

  it('hold at most so many of everything, so that no question is a flood', () => {
    const pairs = Array.from({ length: 27 }, (_, n) => ({ left: `${n}`, right: `${n}` }));
    expect(faultOf({ kind: 'matching', pairs })).not.toBeNull();
    expect(faultOf({ kind: 'matching', pairs: pairs.slice(1) })).toBeNull();
    const order = Array.from({ length: 27 }, (_, n) => `${n}`);
    expect(faultOf({ kind: 'ordering', order, isAllOrNothing: false })).not.toBeNull();
  });
});
