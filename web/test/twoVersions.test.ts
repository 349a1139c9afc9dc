/** @jest-environment ../scripts/jsdomForJest.mjs */
import { defineComponent, h } from 'vue';
import { markLines } from '../src/marking/markLines.ts';
import TwoVersions from '../src/parts/TwoVersions.vue';
import { useFieldClash } from '../src/parts/useFieldClash.ts';
import { HttpProblem } from '../src/platform/http.ts';
import { beginMounting, endMounting, inPage, show, words } from './mounting.ts';

beforeEach(beginMounting);
afterEach(endMounting);

describe('two versions of the same', () => {
  const open = (lines: readonly { what: string; theirs: string; mine: string }[]) => {
    const said: string[] = [];
    const page = defineComponent({
      setup: () => () =>
        h(TwoVersions, { says: 'Somebody else saved this.', lines, onTheirs: () => said.push('theirs'), onMine: () => said.push('mine') }),
    });
    return show(page, {}).then((shown) => ({ shown, said }));
  };
  const sides = (shown: Awaited<ReturnType<typeof open>>['shown']) =>
    shown.findAll('section .pair > div').map((side) => [side.text(), side.findAll('mark').map((m) => m.text())]);

  it('stand side by side in full, with what differs marked in each', async () => {
    const { shown } = await open([{ what: 'Text', theirs: 'Oil the pallet stones.\nWait.', mine: 'Oil the escape teeth.\nWait.' }]);
    expect(sides(shown)).toEqual([
      ['Oil the pallet stones.Wait.', ['pallet', 'stones']],
      ['Oil the escape teeth.Wait.', ['escape', 'teeth']],
    ]);
  });

  it('leave out what both have alike, and say where one has nothing', async () => {
    const { shown } = await open([
      { what: 'Title', theirs: 'Oil', mine: 'Oil' },
      { what: 'Note', theirs: '', mine: 'mine alone' },
    ]);
    expect(shown.text()).not.toContain('Title');
    expect(sides(shown)).toEqual([
      ['nothing', []],
      ['mine alone', ['mine alone']],
    ]);
  });

  it('say so where they read the same, and either can be taken', async () => {
    const { shown, said } = await open([{ what: 'Text', theirs: 'a', mine: 'a' }]);
    expect(shown.text()).toContain('Both read the same.');
    for (const button of shown.findAll('button')) await button.trigger('click');
    expect(said).toEqual(['theirs', 'mine']);
  });
});

describe('fields that somebody else saved meanwhile', () => {
  const conflict = new HttpProblem({
    type: 'urn:rosemary:conflict',
    title: '',
    status: 409,
    detail: '',
    current: { title: 'Theirs', at: 5, version: 4 },
  } as never);
  const use = () => {
    const done: unknown[] = [];
    return inPage(() => ({
      ...useFieldClash<{ title: string; at: number }, { title?: string; at?: number }>(
        (current) => done.push(['adopted', current.title]),
        (change) => done.push(['again', change]),
        (field, value) => `${field} ${String(value)}`,
      ),
      done,
    }));
  };

  it('stand beside what was typed here, and mine is written once more when it is kept', async () => {
    const own = await use();
    expect(own.caught(conflict, { title: 'Mine' })).toBe(true);
    expect(own.lines.value).toEqual([{ what: 'title', theirs: 'title Theirs', mine: 'title Mine' }]);
    await own.keepMine();
    expect(own.done).toEqual([
      ['adopted', 'Theirs'],
      ['again', { title: 'Mine' }],
    ]);
    expect([own.clash.value, own.lines.value]).toEqual([null, []]);
  });

  it('are taken as they are, and nothing is written', async () => {
    const own = await use();
    own.caught(conflict, { at: 6 });
    own.takeTheirs();
    expect(own.done).toEqual([['adopted', 'Theirs']]);
  });

  it('leave any other refusal to its field', async () => {
    const own = await use();
    expect(own.caught(new HttpProblem({ type: 'urn:rosemary:invalid', title: '', status: 422, detail: 'no' }), {})).toBe(false);
    expect(own.caught(new Error('broken'), {})).toBe(false);
    expect(own.clash.value).toBeNull();
  });
});

describe('two marks of one work', () => {
  const criteria = [
    {
      id: 'k',
      title: 'Structure',
      form: 'levels',
      levels: [
        { id: 'l1', title: 'clear', points: 5000 },
        { id: 'l2', title: '', points: 2000 },
      ],
    },
    { id: 'n', title: 'Spelling', form: 'count', levels: [] },
    { id: 'r', title: 'Depth', form: 'range', levels: [] },
  ] as never;
  const mark = { choices: {}, given: {}, comments: {}, feedback: null, scoreReason: '', total: null };

  it('are told line by line in words', () => {
    const theirs = { ...mark, choices: { k: 'l1' }, given: { n: 3, r: 4500 }, total: 9000, feedback: words('Good.') };
    const mine = { ...mark, choices: { k: 'l2' }, comments: { n: 'twice the same' }, scoreReason: 'as agreed' };
    expect(markLines(criteria, theirs, mine)).toEqual([
      { what: 'Score', theirs: '9', mine: 'none yet' },
      { what: 'Reason for the score', theirs: '', mine: 'as agreed' },
      { what: 'Structure', theirs: 'clear', mine: '2' },
      { what: 'Spelling', theirs: '3', mine: 'twice the same' },
      { what: 'Depth', theirs: '4.5', mine: '' },
      { what: 'Feedback', theirs: 'Good.', mine: '' },
    ]);
  });
});
