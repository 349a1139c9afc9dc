import fc from 'fast-check';
import type { CellTarget } from './judgeCell.ts';
import { judgeCell } from './judgeCell.ts';
import { planBlock } from './planBlock.ts';
import { readBlock } from './readBlock.ts';

const empty: CellTarget = { possible: 20_000, given: null, closed: null };
const place = { rows: 4, columns: 3, top: 0, left: 0, bottom: 0, right: 0 };

describe('a block as it comes from a spreadsheet', () => {
  it.each([
    [
      '12\t"a\nb"\r\n13\te\n',
      [
        ['12', 'a\nb'],
        ['13', 'e'],
      ],
    ],
    ['', [['']]],
    ['\uFEFF7', [['7']]],
    ['1\t\t3', [['1', '', '3']]],
    ['"he said ""no"""\t 2 ', [['he said "no"', '2']]],
    ['1\r2\r', [['1'], ['2']]],
    ['1\n\n2', [['1'], [''], ['2']]],
  ])('is read: %j', (text, cells) => {
    expect(readBlock(text)).toEqual(cells);
  });

  it('comes back as it was put on the clipboard, whatever its cells hold', () => {
    const cell = fc.stringMatching(/^[a-z0-9"\t\n ]{0,8}$/).map((text) => text.trim());
    const block = fc
      .integer({ min: 1, max: 4 })
      .chain((wide) => fc.array(fc.array(cell, { minLength: wide, maxLength: wide }), { minLength: 1, maxLength: 4 }));
    const quoted = (text: string): string => (/["\t\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
    fc.assert(
      fc.property(block, (rows) => {
        const text = rows.map((row) => row.map(quoted).join('\t')).join('\n') + '\n';
        expect(readBlock(text)).toEqual(rows);
      }),
    );
  });
});

describe('a cell that is pasted', () => {
  it('changes nothing where the same stands there, also where nothing could be written', () => {
    expect(judgeCell('18,5', { ...empty, given: 18_500 }).kind).toBe('same');
    expect(judgeCell('', { ...empty, closed: 'not for this student' }).kind).toBe('same');
  });

  it('says what it changes, what it asks and why it is refused', () => {
    expect(judgeCell('80 %', { ...empty, given: 'exempt' })).toMatchObject({
      kind: 'change',
      was: 'exempt',
      will: '16',
      wish: { raw: 16_000 },
    });
    expect(judgeCell('21', empty)).toMatchObject({ kind: 'above', note: '21 is more than the 20 points' });
    expect(judgeCell('12', { ...empty, closed: 'not for this student' })).toEqual({ kind: 'refused', reason: 'not for this student' });
    expect(judgeCell('twelve', empty)).toMatchObject({ kind: 'refused', reason: expect.stringContaining('“twelve” is not a number') });
  });

  it('takes letters where its column does, each for its stated value or the middle of its range', () => {
    const levels = [
      { label: 'A', cutPoint: 87_000 },
      { label: 'B', cutPoint: 73_000, value: 78_000 },
      { label: 'F', cutPoint: 0, value: null },
    ];
    expect(judgeCell('a', { ...empty, levels })).toMatchObject({ will: '18.7' });
    expect(judgeCell('B', { ...empty, levels })).toMatchObject({ will: '15.6' });
    expect(judgeCell('F', { ...empty, levels })).toMatchObject({ will: '7.3' });
    expect(judgeCell('C', { ...empty, levels })).toMatchObject({ reason: expect.stringContaining('A, B, F') });
    expect(judgeCell('B', empty).kind).toBe('refused');
  });
});

describe('a block over the grid', () => {
  it('begins where the chosen cell is and tells of every cell that differs', () => {
    const plan = planBlock(
      [
        ['1', '2'],
        ['3', 'x'],
      ],
      { ...place, top: 1, left: 1, bottom: 1, right: 1 },
      () => empty,
    );
    expect(plan.cells.map((c) => [c.row, c.column, c.judgement.kind])).toEqual([
      [1, 1, 'change'],
      [1, 2, 'change'],
      [2, 1, 'change'],
      [2, 2, 'refused'],
    ]);
    expect(plan.outside).toBe('');
  });

  it('fills what is chosen with one value, or a whole number of times with a larger block', () => {
    expect(planBlock([['5']], { ...place, bottom: 2, right: 1 }, () => empty).cells).toHaveLength(6);
    expect(planBlock([['5'], ['6']], { ...place, bottom: 3 }, () => empty).cells.map((c) => c.text)).toEqual(['5', '6', '5', '6']);
    expect(planBlock([['5'], ['6']], { ...place, bottom: 2 }, () => empty).cells.map((c) => c.text)).toEqual(['5', '6']);
  });

  it('counts what lies outside of the grid instead of dropping it silently', () => {
    const plan = planBlock(
      Array.from({ length: 5000 }, () => ['1', '2', '3', '4']),
      { ...place, top: 3 },
      () => empty,
    );
    expect(plan.cells).toHaveLength(3);
    expect(plan.outside).toBe('4999 rows below the last student and 1 column to the right of the last one');
  });

  it('leaves the cells alone that a shorter line does not have, and counts those that hold it already', () => {
    const plan = planBlock([['1', '2'], ['3']], place, () => ({ ...empty, given: 3000 }));
    expect(plan.cells.map((c) => [c.row, c.column])).toEqual([
      [0, 0],
      [0, 1],
    ]);
    expect(plan.same).toBe(1);
  });

  it('never loses a cell: what changes, what is the same, what is refused and what lies outside add up', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.constantFrom('1', '21', 'x', '', 'e'), { minLength: 2, maxLength: 2 }), { minLength: 1, maxLength: 6 }),
        fc.nat(3),
        fc.nat(2),
        (block, top, left) => {
          const plan = planBlock(block, { ...place, top, left, bottom: top, right: left }, () => empty);
          const inside = Math.min(block.length, 4 - top) * Math.min(2, 3 - left);
          expect(plan.cells.length + plan.same).toBe(inside);
        },
      ),
    );
  });
});
