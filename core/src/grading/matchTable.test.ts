import { matchTable, repeatedLines, type ResultLine } from './matchTable.ts';

const students = [
  { enrolmentId: 'e1', givenName: 'Tunde', familyName: 'Abiola', keys: ['e1', 'tunde@example.org', 'S-1'] },
  { enrolmentId: 'e2', givenName: 'Wilhelmina', familyName: 'Adeyemi-Sørli', keys: ['e2', 'wil@example.org'] },
  { enrolmentId: 'e3', givenName: 'Kim', familyName: 'Lee', keys: ['e3', 'kim1@example.org'] },
  { enrolmentId: 'e4', givenName: 'Kim', familyName: 'Lee', keys: ['e4', 'kim2@example.org'] },
];
const columns = [
  { id: 'c1', title: 'Test' },
  { id: 'c2', title: 'Talk (short)' },
  { id: 'c3', title: 'Log' },
  { id: 'c4', title: 'Log' },
];
const match = (...rows: string[][]) => {
  const found = matchTable(rows, students, columns);
  if (!found.ok) throw new Error(found.reason);
  return found.table;
};
const who = (lines: readonly ResultLine[]) => lines.map((l) => l.enrolmentId ?? (l.candidates.length > 0 ? l.candidates : null));

describe('a table of results', () => {
  it('is met by identifier, address or name, whatever the case and accents', () => {
    const { lines } = match(
      ['Student ID', 'Email', 'Name', 'Test'],
      ['S-1', '', '', '1'],
      ['', 'WIL@example.org', '', '2'],
      ['', '', 'Adeyemi-Sorli, Wilhelmina', '3'],
      ['', '', 'tunde  abiola', '4'],
    );
    // A slashed letter is no accent, so this spelling of the name is not met.
    expect(who(lines)).toEqual(['e1', 'e2', null, 'e1']);
    expect(lines.map((l) => l.line)).toEqual([2, 3, 4, 5]);
    expect([...repeatedLines(lines)]).toEqual([5]);
  });

  it('asks where two have the name, and where nobody has it', () => {
    const { lines } = match(
      ['Family name', 'Given name', 'Test'],
      ['Lee', 'Kim', '1'],
      ['Nobody', 'At All', '2'],
      ['Abiola', 'Tunde', '3'],
    );
    expect(who(lines)).toEqual([['e3', 'e4'], null, 'e1']);
    expect(lines[1]?.named).toBe('Nobody, At All');
  });

  it('meets columns by their title, with or without points, and by their identifier where titles are alike', () => {
    const heads = match([
      'Name',
      'TEST (20)',
      'Talk (short)',
      'Log',
      'Total so far',
      'Letter',
      'Bench work (subtotal)',
      '',
      'New one',
    ]).heads;
    expect(heads.map((h) => (h.kind === 'column' ? h.columnId : h.kind))).toEqual([
      'who',
      'c1',
      'c2',
      'left out',
      'left out',
      'left out',
      'left out',
      'left out',
      'unknown',
    ]);
    const byId = match(['Name', 'Log', 'Log'], ['Column ID', 'c4', 'c3'], ['Points', '10', '10'], ['Abiola, Tunde', '1', '2']);
    expect(byId.heads.map((h) => (h.kind === 'column' ? h.columnId : h.kind))).toEqual(['who', 'c4', 'c3']);
    expect(byId.lines).toHaveLength(1);
  });

  it('takes a title once', () => {
    expect(match(['Name', 'Test', 'Test']).heads[2]).toMatchObject({ kind: 'left out', why: 'a column before it has this title' });
  });

  it('passes over merged heads and empty lines', () => {
    const { lines, heads } = match(
      ['Results of autumn'],
      ['', 'Quizzes', ''],
      ['Name', 'Test', 'Talk (short)'],
      ['', '', ''],
      ['Abiola, Tunde', '1', '2'],
    );
    expect([heads.length, lines.map((l) => l.line)]).toEqual([3, [5]]);
  });

  it('without a column for who a line is about is refused with the mend', () => {
    expect(matchTable([['Test'], ['1']], students, columns)).toEqual({
      ok: false,
      reason: 'No column says who a line is about. Give one the heading Student ID, Email or Name, in the line over the results.',
    });
  });
});
