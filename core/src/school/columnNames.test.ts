import { readHead, renameColumns, suggestColumns } from './columnNames.ts';
import { LIST_COLUMNS, listKind, readSchoolTable, SAMPLE_LISTS, type ListKind } from './lists.ts';

describe('the names of the columns of a table', () => {
  it.each([
    ['a,b,c\n1,2,3', ',', ['a', 'b', 'c']],
    ['\ufeffMail;"Name; first"\r\nx;y', ';', ['Mail', 'Name; first']],
    ['one\ttwo, three\nx', '\t', ['one', 'two, three']],
    ['"say ""hi""",b', ',', ['say "hi"', 'b']],
    ['"two\nlines",b\nx,y', ',', ['two\nlines', 'b']],
    ['', ',', ['']],
  ])('are read from %j', (text, delimiter, names) => {
    expect(readHead(text)).toMatchObject({ delimiter, names });
  });

  it('say where the rows begin', () => {
    const text = 'a,b\r\n1,2';
    expect(text.slice(readHead(text).end)).toBe('1,2');
    expect(readHead('a,b').end).toBe(3);
  });
});

describe('which columns are probably wanted', () => {
  it('are those of the very name first, then those others call so, each once', () => {
    expect(suggestColumns(['email', 'given name', 'family name'], ['Surname', 'First Name', 'E-Mail', 'Phone'])).toEqual([2, 1, 0]);
    expect(suggestColumns(['family name', 'title'], ['Name', 'Title'])).toEqual([0, 1]);
    expect(suggestColumns(['title', 'family name'], ['Name'])).toEqual([0, null]);
  });
  it('are none where nothing is like them', () => {
    expect(suggestColumns(['email'], ['Colour', ''])).toEqual([null]);
  });
});

describe('a table whose columns are named otherwise', () => {
  it('is the same but for its names', () => {
    expect(renameColumns('Mail,Name\nx,y', new Map([['email', 0]]))).toBe('email,Name\nx,y');
    expect(
      renameColumns(
        'Surname;Mail\nLund;a@b.c\n',
        new Map([
          ['email', 1],
          ['family name', 0],
        ]),
      ),
    ).toBe('family name;email\nLund;a@b.c\n');
  });
  it('never has one of our names twice', () => {
    expect(renameColumns('email,login\nold,new', new Map([['email', 1]]))).toBe('other email,email\nold,new');
  });
  it('quotes names that would be read as two', () => {
    expect(renameColumns('"a,b",c\n1,2', new Map([['email', 1]]))).toBe('"a,b",email\n1,2');
  });
  it('reads back as what was written, whatever the delimiter', () => {
    for (const delimiter of [',', ';', '\t']) {
      const text = renameColumns(`x${delimiter}y${delimiter}z\n1`, new Map([['given name', 2]]));
      expect(readHead(text).names).toEqual(['x', 'y', 'given name']);
    }
  });
});

describe('the samples of lists', () => {
  it.each(Object.keys(LIST_COLUMNS) as ListKind[])('of %s are read as what they are, without a fault', (kind) => {
    const records = SAMPLE_LISTS[kind]
      .trim()
      .split('\n')
      .map((line) => line.split(','));
    expect(listKind(records)).toBe(kind);
    expect(readSchoolTable(`${kind}.csv`, records)?.faults).toEqual([]);
  });
});
