/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { GivenAnswer } from '@rosemary/api';
import {
  askQuestion,
  KIND_WORDS,
  newKey,
  type AskedQuestion,
  type KeyOf,
  type QuestionContent,
  type QuestionKey,
  type QuestionKind,
} from '@rosemary/core';
import { flushPromises } from '@vue/test-utils';
import AnswerField from '../src/questions/AnswerField.vue';
import { ANSWER_FIELDS } from '../src/questions/answerFields.ts';
import KeyEditor from '../src/questions/KeyEditor.vue';
import { KEY_EDITORS } from '../src/questions/keys/keyEditors.ts';
import { beginMounting, endMounting, show, words } from './mounting.ts';

beforeEach(beginMounting);
afterEach(endMounting);

const KINDS = Object.keys(KIND_WORDS) as QuestionKind[];
let ids = 0;
const newId = (): string => `id${(ids += 1)}`;
const BLANKS: QuestionContent['words'] = {
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: 'The ' },
        { type: 'blank', attrs: { id: 'b1', size: 8 } },
        { type: 'text', text: ' locks.' },
      ],
    },
  ],
};
/** A key of each kind with something in it, as a student is asked by it. */
const KEYS: { readonly [kind in QuestionKind]: QuestionKey } = {
  single: {
    kind: 'single',
    choices: ['lever', 'wheel'].map((w, n) => ({ id: w, words: words(w), share: n === 0 ? 100_000 : 0, feedback: null })),
    hasDontKnow: true,
  },
  truth: {
    kind: 'truth',
    choices: ['True', 'False'].map((w, n) => ({ id: w, words: words(w), share: n === 0 ? 100_000 : 0, feedback: null })),
    hasDontKnow: false,
  },
  several: {
    kind: 'several',
    choices: ['lever', 'wheel', 'fusee'].map((w) => ({ id: w, words: words(w), share: 100_000, feedback: null })),
    rule: 'less wrong',
    hasDontKnow: false,
  },
  numeric: {
    kind: 'numeric',
    rules: {
      accepted: [{ value: '18000', tolerance: { kind: 'absolute', amount: '0' }, share: 100_000 }],
      units: [],
      isUnitNeeded: false,
      decimals: null,
      isSignFree: false,
    },
  },
  calculated: {
    kind: 'calculated',
    question: {
      parameters: [{ name: 'a', from: '2', to: '2', step: '1', decimals: 0 }],
      conditions: [],
      formula: 'a * 2',
      tolerance: { kind: 'absolute', amount: '0' },
    },
    rules: { units: [{ name: 'mm', factor: '1' }], isUnitNeeded: true, decimals: 1, isSignFree: false },
  },
  short: {
    kind: 'short',
    rules: { accepted: [{ text: 'pallet', isPattern: false, share: 100_000 }], caseMatters: false, spaceMatters: false },
  },
  blanks: {
    kind: 'blanks',
    blanks: [
      {
        id: 'b1',
        weight: 100_000,
        rules: { accepted: [{ text: 'lever', isPattern: false, share: 100_000 }], caseMatters: false, spaceMatters: false },
      },
    ],
  },
  matching: {
    kind: 'matching',
    pairs: [
      { left: 'lever', right: 'locks' },
      { left: 'fusee', right: 'evens' },
    ],
  },
  ordering: { kind: 'ordering', order: ['wind', 'set', 'case'], isAllOrNothing: false },
  hotspot: {
    kind: 'hotspot',
    regions: [{ id: 'r', region: { shape: 'ellipse', centre: { x: 0.5, y: 0.5 }, radius: { x: 0.1, y: 0.1 } }, share: 100_000 }],
  },
  essay: { kind: 'essay' },
  file: { kind: 'file' },
};
const PICTURE = { fileId: 'f', src: '/picture.png', alt: 'a movement' };
const ask = (kind: QuestionKind): AskedQuestion =>
  askQuestion(
    {
      words: kind === 'blanks' ? BLANKS : words('What is this?'),
      key: KEYS[kind],
      feedback: { right: null, wrong: null, general: null },
      picture: PICTURE,
    },
    'q',
    'seed',
    false,
  );
const field = (kind: QuestionKind, more: object = {}) =>
  show(AnswerField, { asked: ask(kind), answer: null, label: 'Question 1', rightIds: [], fileName: '', ...more });

describe('the place for an answer', () => {
  /** What a student does, and the answer that comes of it. */
  const GIVES: { readonly [kind in QuestionKind]: readonly [(f: Awaited<ReturnType<typeof field>>) => Promise<void>, GivenAnswer | null] } =
    {
      single: [(f) => f.findAll('input')[1]!.setValue(true), { kind: 'choice', id: 'wheel' }],
      truth: [(f) => f.findAll('input')[0]!.setValue(true), { kind: 'choice', id: 'True' }],
      several: [(f) => f.findAll('input')[2]!.setValue(true), { kind: 'choices', ids: ['fusee'] }],
      numeric: [(f) => f.find('input').setValue('18 000'), { kind: 'text', text: '18 000' }],
      calculated: [(f) => f.find('input').setValue('4.0 mm'), { kind: 'text', text: '4.0 mm' }],
      short: [(f) => f.find('input').setValue('pallet'), { kind: 'text', text: 'pallet' }],
      blanks: [(f) => f.find('.blank-field').setValue('lever'), { kind: 'texts', texts: { b1: 'lever' } }],
      matching: [(f) => f.findAll('select')[0]!.setValue('locks'), { kind: 'pairs', pairs: { lever: 'locks' } }],
      ordering: [
        (f) =>
          f
            .findAll('button')
            .find((b) => b.text() === 'They are right as they stand')!
            .trigger('click'),
        { kind: 'order', order: [...ask('ordering').things] },
      ],
      hotspot: [
        (f) => f.find('[role="application"]').trigger('keydown', { key: 'ArrowRight' }),
        { kind: 'spot', spot: { x: 0.51, y: 0.5 } },
      ],
      essay: [
        async (f) => {
          await flushPromises();
          await f.find('textarea').setValue('Because it locks.');
        },
        { kind: 'work', document: words('Because it locks.'), fileId: null },
      ],
      file: [
        async (f) => {
          const input = f.find('input[type="file"]');
          Object.defineProperty(input.element, 'files', { value: [new File(['x'], 'watch.pdf')] });
          await input.trigger('change');
          await flushPromises();
        },
        { kind: 'work', document: null, fileId: 'kept' },
      ],
    };
  const sendFile = () => Promise.resolve({ id: 'kept', name: 'watch.pdf' });

  it.each(KINDS)('of the kind %s gives what its student gives', async (kind) => {
    const shown = await field(kind, { sendFile });
    const [act, answer] = GIVES[kind];
    await act(shown);
    const told = [...(shown.emitted('answer') ?? []), ...(shown.emitted('typing') ?? [])];
    expect(told).toEqual([[answer]]);
  });

  it.each(KINDS)('of the kind %s shows what is asked once', async (kind) => {
    const shown = await field(kind);
    expect(shown.text().split(kind === 'blanks' ? 'locks.' : 'What is this?')).toHaveLength(2);
    expect(ANSWER_FIELDS[kind].hasWords === true).toBe(kind === 'blanks');
  });

  it.each(KINDS.filter((k) => k !== 'hotspot' && k !== 'essay'))('of the kind %s is shut once the attempt is over', async (kind) => {
    const shown = await field(kind, { isFixed: true, sendFile });
    const open = shown.findAll('input, select, button').filter((one) => {
      const element = one.element as HTMLInputElement;
      return !element.disabled && element.closest('fieldset:disabled') === null;
    });
    expect(open).toHaveLength(0);
  });

  it('takes a mark in a choice back, and knows that somebody does not know', async () => {
    const several = await field('several', { answer: { kind: 'choices', ids: ['fusee'] } });
    await several.findAll('input')[2]!.setValue(false);
    expect(several.emitted('answer')).toEqual([[null]]);
    const single = await field('single');
    await single.findAll('input')[2]!.setValue(true);
    expect(single.emitted('answer')).toEqual([[{ kind: 'dontKnow' }]]);
  });

  it('says how a number is to be written, and how a comma is read', async () => {
    const calculated = await field('calculated', { answer: { kind: 'text', text: '1,234' } });
    expect(calculated.find('input').attributes('aria-label')).toBe('Question 1, your answer, in mm, with the unit, with 1 decimal');
    expect(calculated.find('[role="status"]').text()).toContain('1');
  });

  it('moves a thing with the keyboard and says where it is', async () => {
    const things = [...ask('ordering').things];
    const shown = await field('ordering', { answer: { kind: 'order', order: things } });
    await shown.findAll('.thing')[0]!.trigger('keydown', { key: 'ArrowDown', altKey: true });
    expect(shown.emitted('answer')).toEqual([[{ kind: 'order', order: [things[1], things[0], things[2]] }]]);
    expect(shown.find('[role="status"]').text()).toBe(`${things[0]}: place 2 of 3`);
  });

  it('says that a file did not arrive', async () => {
    const shown = await field('file', { sendFile: () => Promise.reject(new Error('away')) });
    const input = shown.find('input[type="file"]');
    Object.defineProperty(input.element, 'files', { value: [new File(['x'], 'watch.pdf')] });
    await input.trigger('change');
    await flushPromises();
    expect(shown.find('[role="alert"]').text()).toBe('The file did not arrive. Send it again.');
    expect(shown.emitted('answer')).toBeUndefined();
  });
});

const answer = (id: string, text: string) => ({ id, words: words(text), share: 0, feedback: null });
describe('the editor of a key', () => {
  const edit = (key: QuestionKey) => show(KeyEditor, { value: key, picture: PICTURE, courseId: 'c' });
  const press = async (shown: Awaited<ReturnType<typeof edit>>, text: string): Promise<void> => {
    await shown
      .findAll('button')
      .find((b) => b.text() === text)!
      .trigger('click');
  };
  const changed = <K extends QuestionKind>(shown: Awaited<ReturnType<typeof edit>>, kind: K): KeyOf<K> => {
    const key = shown.emitted('change')?.at(-1)?.[0] as QuestionKey;
    expect(key.kind).toBe(kind);
    return key as KeyOf<K>;
  };

  it.each(KINDS)('of the kind %s shows a new key and one that is filled', async (kind) => {
    await edit(newKey(kind, newId));
    const shown = await edit(KEYS[kind]);
    // The legend, and something to change or to read.
    expect(shown.find('fieldset').element.children.length).toBeGreaterThan(1);
    expect(KEY_EDITORS[kind].takesPicture === true).toBe(kind === 'hotspot');
  });

  it('gives one answer more to choose from, and marks another as right', async () => {
    const shown = await edit(KEYS.single);
    await press(shown, 'Add answer');
    expect(changed(shown, 'single').choices).toHaveLength(3);
    await shown.findAll('input[type="radio"]')[1]!.setValue(true);
    expect(changed(shown, 'single').choices.map((c) => [c.id, c.share])).toEqual([
      ['lever', 0],
      ['wheel', 100_000],
    ]);
  });

  it('goes on to the next answer by Enter, and makes one only where none that is empty follows', async () => {
    const shown = await edit({
      kind: 'single',
      hasDontKnow: false,
      choices: ['a', 'b', 'c'].map((id) => answer(id, id === 'a' ? 'lever' : '')),
    });
    const lines = () => shown.findAll('.choice-words input');
    await lines()[0]!.trigger('keydown', { key: 'Enter' });
    expect([shown.emitted('change'), document.activeElement]).toEqual([undefined, lines()[1]!.element]);
    await lines()[2]!.trigger('keydown', { key: 'Enter' });
    expect(changed(shown, 'single').choices).toHaveLength(4);
    const full = await edit({ kind: 'single', hasDontKnow: false, choices: [answer('a', 'lever'), answer('b', 'wheel')] });
    await full.findAll('.choice-words input')[0]!.trigger('keydown', { key: 'Enter' });
    expect(
      changed(full, 'single')
        .choices.map((c) => c.id)
        .indexOf('b'),
    ).toBe(2);
  });

  it('adds pairs, things, numbers and accepted answers', async () => {
    const matching = await edit(KEYS.matching);
    await press(matching, 'Add pair');
    expect(changed(matching, 'matching').pairs).toHaveLength(3);
    const ordering = await edit(KEYS.ordering);
    await press(ordering, 'Add thing');
    expect(changed(ordering, 'ordering').order).toEqual(['wind', 'set', 'case', '']);
    const numeric = await edit(KEYS.numeric);
    await press(numeric, 'Add another accepted number');
    expect(changed(numeric, 'numeric').rules.accepted).toHaveLength(2);
    const calculated = await edit(KEYS.calculated);
    await press(calculated, 'Add number');
    expect(changed(calculated, 'calculated').question.parameters.map((p) => p.name)).toEqual(['a', 'b']);
    await press(calculated, 'into the text');
    expect(calculated.emitted('insert')).toEqual([['a']]);
  });

  it('draws places into the picture by numbers too, and takes another picture', async () => {
    const shown = await edit(KEYS.hotspot);
    await press(shown, 'Add rectangle by numbers');
    expect(changed(shown, 'hotspot').regions.map((r) => r.region.shape)).toEqual(['ellipse', 'rectangle']);
    await press(shown, 'another picture');
    expect(shown.emitted('picture')).toEqual([[null]]);
  });

  it('says who marks where nothing can be scored by a rule', async () => {
    expect((await edit(KEYS.essay)).text()).toContain('Written at length; somebody marks it.');
    expect((await edit(KEYS.file)).text()).toContain('A file is given; somebody marks it.');
  });
});
