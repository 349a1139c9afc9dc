import fc from 'fast-check';
import {
  checkObjectives,
  meetObjectives,
  readCompetencyFramework,
  readObjectiveTable,
  writeCompetencyFramework,
  writeObjectiveTable,
  type ObjectiveRow,
} from '../index.ts';

const row = (key: string, parentKey: string | null = null, more: Partial<ObjectiveRow> = {}): ObjectiveRow => ({
  key,
  code: key,
  statement: `Can do ${key}`,
  parentKey,
  line: 0,
  ...more,
});
const numbered = (...rows: ObjectiveRow[]): ObjectiveRow[] => rows.map((r, n) => ({ ...r, line: n + 1 }));
const texts = (...rows: ObjectiveRow[]): string[] => checkObjectives(numbered(...rows)).problems.map((p) => p.text);
const HEAD = {
  identifier: '00000000-0000-4000-8000-000000000000',
  title: 'Watches',
  changedAt: '2026-11-18T10:20:00Z',
  creator: 'Rosemary',
};

describe('a list of objectives', () => {
  it.each([
    ['no statement', [row('A', null, { statement: '' })], 'Row 1 has no statement'],
    ['no code', [row('')], 'Row 1 has no code'],
    ['a code twice', [row('A'), row('A')], 'Row 2 has the code “A” a second time'],
    ['a parent that is nowhere', [row('A', 'Z')], 'stands below “Z”, which is not taken'],
    ['a statement beyond measure', [row('A', null, { statement: 'x'.repeat(2001) })], 'at most 2000'],
    ['a code beyond measure', [row('A'.repeat(61))], 'longer than 60'],
  ])('names %s', (_, rows, words) => {
    expect(texts(...rows).join()).toContain(words);
  });
  it('leaves out a circle, and what stands below it, and takes the rest', () => {
    const read = checkObjectives(numbered(row('A', 'B'), row('B', 'A'), row('C', 'B'), row('D')));
    expect(read.rows.map((r) => r.key)).toEqual(['D']);
    expect(read.problems.map((p) => p.line)).toEqual([1, 2, 3]);
    expect(read.problems[0]?.text).toContain('below itself');
  });
  it('takes no row whose parent is not taken, whatever the tree', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(9), fc.nat(9), fc.boolean()), { maxLength: 10 }), (list) => {
        const rows = numbered(...list.map(([k, p, isRoot]) => row(`k${k}`, isRoot ? null : `k${p}`)));
        const read = checkObjectives(rows);
        const kept = new Set(read.rows.map((r) => r.key));
        expect(read.rows.every((r) => r.parentKey === null || kept.has(r.parentKey))).toBe(true);
        expect(kept.size).toBe(read.rows.length);
        expect(read.rows.length + read.problems.length).toBe(rows.length);
      }),
    );
  });
});

const trees = fc.array(fc.tuple(fc.nat(20), fc.string({ minLength: 1, maxLength: 30 })), { maxLength: 15 }).map((list) =>
  list.map(([up, words], n): ObjectiveRow => ({
    key: `00000000-0000-4000-8000-${String(n + 1).padStart(12, '0')}`,
    code: `C${n}`,
    statement: `s ${words}`.trim(),
    parentKey: n === 0 || up >= n ? null : `00000000-0000-4000-8000-${String((up % n) + 1).padStart(12, '0')}`,
    line: n + 1,
  })),
);

describe('a table', () => {
  it('names the columns it misses and what it found', () => {
    expect(readObjectiveTable([['id', 'text']]).problems[0]?.text).toContain('no column “code” and “statement”. It reads: id, text');
    expect(readObjectiveTable([]).problems[0]?.text).toContain('It reads: nothing');
  });
  it('takes its columns in any order, passes over empty rows, and counts rows as the file does', () => {
    const read = readObjectiveTable([
      ['Statement', 'CODE'],
      ['Dress a blade', 'T1'],
      ['', ''],
      ['', 'T2'],
    ]);
    expect(read.rows).toMatchObject([{ code: 'T1', statement: 'Dress a blade', parentKey: null, line: 2 }]);
    expect(read.problems).toEqual([{ line: 4, text: expect.stringContaining('Row 4 has no statement') }]);
  });
  it('written and read again is the same', () => {
    fc.assert(
      fc.property(trees, (rows) => {
        const codeOf = new Map(rows.map((r) => [r.key, r.code]));
        const again = readObjectiveTable(writeObjectiveTable(rows)).rows;
        expect(again.map((r) => [r.code, r.statement, r.parentKey])).toEqual(
          rows.map((r) => [r.code, r.statement, r.parentKey === null ? null : codeOf.get(r.parentKey)]),
        );
      }),
    );
  });
});

describe('a competency framework', () => {
  it('is refused in words where it is none', () => {
    expect(readCompetencyFramework({ items: [] }).problems[0]?.text).toContain('no list “CFItems” (found: items)');
    expect(readCompetencyFramework(null).problems).toHaveLength(1);
    expect(readCompetencyFramework({ CFItems: [3, { identifier: 'x' }] }).problems).toHaveLength(2);
  });
  it('takes its tree from isChildOf alone, ordered by their numbers, roots below the document', () => {
    const link = (child: string, parent: string, sequenceNumber: number, associationType = 'isChildOf') => ({
      associationType,
      sequenceNumber,
      originNodeURI: { identifier: child },
      destinationNodeURI: { identifier: parent },
    });
    const read = readCompetencyFramework({
      CFDocument: { identifier: 'doc' },
      CFItems: ['a', 'b', 'c'].map((identifier) => ({
        identifier,
        fullStatement: identifier,
        humanCodingScheme: identifier.toUpperCase(),
      })),
      CFAssociations: [link('c', 'doc', 1), link('a', 'c', 2), link('b', 'a', 3, 'isRelatedTo')],
    });
    expect(read.rows.map((r) => [r.key, r.parentKey])).toEqual([
      ['c', null],
      ['a', 'c'],
      ['b', null],
    ]);
  });
  it('written and read again is the same', () => {
    fc.assert(
      fc.property(trees, (rows) => {
        const again = readCompetencyFramework(JSON.parse(JSON.stringify(writeCompetencyFramework(HEAD, rows)))).rows;
        expect(again.map((r) => [r.key, r.code, r.statement, r.parentKey])).toEqual(
          rows.map((r) => [r.key, r.code, r.statement, r.parentKey]),
        );
      }),
    );
  });
});

describe('meeting what a course has', () => {
  const known = { id: '1', source: null, code: 'T1', statement: 'Can do T1', parentId: null };
  it('goes by the identifier first, then by the code', () => {
    expect(meetObjectives([known], [row('x', null, { code: 't1', statement: 'Other' })])).toMatchObject([{ what: 'change', id: '1' }]);
    expect(meetObjectives([{ ...known, source: 'x' }], [row('x', null, { code: 'T9' })])).toMatchObject([{ what: 'change', id: '1' }]);
    expect(meetObjectives([known], [row('T1')])).toMatchObject([{ what: 'same', id: '1' }]);
    expect(meetObjectives([known], [row('T2', 'T1'), row('T1')])).toMatchObject([{ what: 'add' }, { what: 'same' }]);
  });
});
