import { describe, expect, it } from '@jest/globals';
import { DONE_RULES } from './doneRules.ts';
import { ITEM_KINDS, kindOfItem, kindsThat } from './kinds.ts';
import type { LookedAt } from './kindOfItem.ts';

const bare: LookedAt = { title: 'Fusee chains', isEmpty: true, hasDue: false, takesWork: false, doneRule: 'opened', isReviewed: false };

describe('the kinds of item', () => {
  it('say what can stand outside the units: what is read, and nothing that is waited for', () => {
    expect(kindsThat((kind) => kind.canStand)).toEqual(['page', 'file', 'link']);
    expect(kindsThat((kind) => kind.canStand && kind.isWork)).toEqual([]);
  });

  it('never give a column to what is only read, and always a rule of being done that exists', () => {
    for (const kind of ITEM_KINDS) {
      const { isWork, column, doneRules } = kindOfItem(kind);
      expect({ kind, hasColumn: column !== 'never' }).toEqual({ kind, hasColumn: isWork });
      expect(doneRules.every((rule) => DONE_RULES.includes(rule))).toBe(true);
      expect(new Set(doneRules).size).toBe(doneRules.length);
    }
  });

  it('wait for a marker only where something is worth points of its own or of its questions', () => {
    expect(kindsThat((kind) => kind.marking === 'work')).toEqual(['assignment']);
    expect(kindsThat((kind) => kind.marking === 'attempts')).toEqual(['quiz']);
    expect(kindsThat((kind) => !kind.hasOwnPoints)).toEqual(['quiz']);
    for (const kind of kindsThat((one) => !one.hasOwnPoints)) expect(kindOfItem(kind).begins.possible).toBe(0);
  });

  it('begin with nothing that counts where it is talk first', () => {
    expect(kindsThat((kind) => kind.column === 'where it counts' && kind.begins.counts)).toEqual([]);
  });

  it('find in themselves what a student would stumble over', () => {
    const texts = (kind: 'page' | 'assignment' | 'file', looked: LookedAt) =>
      kindOfItem(kind)
        .faults(looked)
        .map((f) => [f.weight, f.place, f.text]);
    expect(texts('page', bare)).toEqual([['mend', 'text', 'The page “Fusee chains” is empty.']]);
    expect(texts('page', { ...bare, isEmpty: false })).toEqual([]);
    expect(texts('file', bare)).toEqual([]);
    expect(texts('assignment', bare)).toEqual([
      ['look', 'dueAt', '“Fusee chains” has no due date.'],
      ['look', 'text', '“Fusee chains” has no instructions.'],
      ['mend', 'setting', '“Fusee chains” takes neither text nor files, so nothing can be handed in.'],
    ]);
    expect(texts('assignment', { ...bare, title: 'x', isEmpty: false, hasDue: true, takesWork: true })).toEqual([]);
    const ruled: LookedAt = { ...bare, isEmpty: false, hasDue: true, takesWork: true, doneRule: 'handed in or reviewed' };
    expect(texts('assignment', { ...ruled, isReviewed: true })).toEqual([]);
    expect(texts('assignment', ruled)[0]?.slice(0, 2)).toEqual(['mend', 'doneRule']);
  });
});
