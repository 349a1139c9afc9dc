import type { ReadTable } from '@rosemary/api';
import { matchTable } from '@rosemary/core';
import { run, withDb } from '../src/index.ts';
import { finishScore, makeSchool, type TestSchool } from './school.ts';
import { bytesOf, packZip } from './zips.ts';

/** The gradebook as a table, out and in again. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('book_table');
  await finishScore(school, school.students[0], 37_500);
  await withDb(school.pool, true, (db) =>
    run(db, "update person set family_name = '=SUM(A1)' where id = (select person_id from enrolment where id = $1)", [school.students[1]]),
  );
}, 60_000);
afterAll(() => school.close());

const base = (): string => `/api/courses/${school.courseId}/gradebook`;
const download = (query: string): Promise<Buffer> => bytesOf(school.agents.instructor.get(`${base()}/table?${query}`).expect(200));
const read = (bytes: Buffer | string, name = 'results.csv') =>
  school.agents.instructor.post(`${base()}/table/read`).attach('file', Buffer.from(bytes as string), name);
const linesOf = async (bytes: Buffer | string, name?: string): Promise<ReadTable['lines']> =>
  ((await read(bytes, name).expect(200)).body as ReadTable).lines;

describe('the gradebook as a table', () => {
  it('goes out as it is shown, guards what a spreadsheet would run, and says the points', async () => {
    const text = (await download(`format=csv&columns=${school.columnId}`)).toString('utf8');
    expect(text.startsWith('\uFEFFFamily name,Given name,Section,Report,Total so far,Floor,Reach,Letter')).toBe(true);
    expect(text).toContain('Points,,,60');
    expect(text).toContain("'=SUM(A1)");
    expect(text).toContain('37.5,62.5');
    expect(text).not.toContain('@');
  });

  it('goes out for the students and the section that are shown', async () => {
    const one = (await download(`format=csv&students=${school.students[0]}`)).toString('utf8').trim().split('\n');
    expect(one).toHaveLength(3);
    await school.agents.instructor.get(`${base()}/table?format=csv&section=${school.courseId}`).expect(200);
    await school.agents.instructor.get(`${base()}/table?format=pdf`).expect(422);
  });

  it.each(['csv', 'xlsx'])('goes out whole as %s and comes in again with every student and column met', async (format) => {
    const bytes = await download(`format=${format}&whole=1`);
    const answer = (await read(bytes, `gradebook.${format}`).expect(200)).body as ReadTable;
    const book = (await school.agents.instructor.get(base()).expect(200)).body;
    const students = book.rows.map((r: { enrolmentId: string; givenName: string; familyName: string }) => ({
      ...r,
      keys: [r.enrolmentId],
    }));
    const found = matchTable(answer.lines, students, book.columns);
    if (!found.ok) throw new Error(found.reason);
    expect(found.table.lines.map((l) => l.enrolmentId).sort()).toEqual([...school.students].sort());
    const at = found.table.heads.findIndex((h) => h.kind === 'column' && h.columnId === school.columnId);
    const line = found.table.lines.find((l) => l.enrolmentId === school.students[0]);
    expect(line?.cells[at]).toBe('37.5');
    // A name that a spreadsheet would run is itself again.
    expect(found.table.lines.some((l) => l.cells.includes('=SUM(A1)'))).toBe(true);
    expect(answer.people.map((p) => p.enrolmentId).sort()).toEqual([...school.students].sort());
  });

  it.each([
    ['semicolons and decimal commas', 'Name;Test\nAbiola, Tunde;12,5\n'],
    ['tabs', 'Name\tTest\nAbiola, Tunde\t12,5\n'],
    ['a byte-order mark', '\uFEFFName,Test\n"Abiola, Tunde","12,5"\n'],
  ])('is read with %s', async (_, text) => {
    expect(await linesOf(text)).toEqual([
      ['Name', 'Test'],
      ['Abiola, Tunde', '12,5'],
    ]);
  });

  it('is read in other encodings', async () => {
    const utf16 = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('Name;Test\nSørli;1', 'utf16le')]);
    expect((await linesOf(utf16))[1]).toEqual(['Sørli', '1']);
    expect((await linesOf(Buffer.from('Name;Test\nS\xf8rli;1', 'latin1')))[1]).toEqual(['Sørli', '1']);
  });

  it.each([
    ['an empty file', Buffer.from('  \n \n'), 'The file is empty.'],
    ['a quotation mark that is not closed', Buffer.from('Name,Test\n"Abiola,1\n'), 'a quotation mark in line'],
    ['bytes that are no table', Buffer.from([1, 2, 0, 3, 0, 0, 0, 9]), 'This file is no table.'],
    ['a workbook of the old kind', Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 1, 2, 3, 4]), 'the old kind (.xls)'],
    ['too many lines', Buffer.from('Name,Test\n'.repeat(6001)), 'A table may have 6000 lines.'],
    ['too many columns', Buffer.from(`${'a,'.repeat(600)}b\n`), 'A table may have 600 columns.'],
  ])('is refused: %s', async (_, bytes, words) => {
    expect((await read(bytes).expect(422)).body.detail).toContain(words);
  });

  it('is refused with macros, and where it is an archive of something else', async () => {
    const macros = await packZip({ 'xl/workbook.xml': '<x/>', 'xl/vbaProject.bin': 'x' });
    expect((await read(macros, 'book.xlsm').expect(422)).body.detail).toContain('This workbook holds macros');
    const other = await packZip({ 'word/document.xml': '<x/>' });
    expect((await read(other, 'book.xlsx').expect(422)).body.detail).toContain('This archive is no workbook.');
    const broken = await packZip({ 'xl/workbook.xml': 'not at all' });
    expect((await read(broken, 'book.xlsx').expect(422)).body.detail).toContain('This workbook cannot be read.');
  });

  it('is for those alone who write grades', async () => {
    for (const who of ['student', 'assistant', 'outsider'] as const) {
      expect([403, 404]).toContain((await school.agents[who].get(`${base()}/table?format=csv`)).status);
      expect([403, 404]).toContain(
        (await school.agents[who].post(`${base()}/table/read`).attach('file', Buffer.from('x'), 'x.csv')).status,
      );
    }
  });
});
