import { readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseTable, writeTable } from '../src/files/index.ts';

/** Tables go out to spreadsheet programs, which take what begins like a formula for one. */
const ROOT = resolve(import.meta.dirname, '../src');

describe('a table that goes out', () => {
  it('holds no formula, and comes back as it was', () => {
    const cells = [
      '=1+1',
      '+351 21',
      '-3 + x',
      '@sum(a1)',
      "'=1",
      "''-2",
      '\ttabbed',
      'plain',
      "it's",
      '',
      '3 − 4',
      '"quoted", and more\nlines',
    ];
    const text = writeTable([cells, [1, -2, null]]);
    expect(text.startsWith('\uFEFF')).toBe(true);
    const [first, second] = parseTable(text);
    expect(first).toEqual(cells);
    // A number is one, and stays it.
    expect(second?.slice(0, 2)).toEqual(['1', '-2']);
    expect(text.slice(1).split('\n')[0]).toContain(["'=1+1", "'+351 21", "'-3 + x", "'@sum(a1)", "''=1", "'''-2"].join(','));
  });

  it('is written in one place, so that none is forgotten', () => {
    const writers = readdirSync(ROOT, { recursive: true, encoding: 'utf8' }).filter(
      (file) => file.endsWith('.ts') && readFileSync(join(ROOT, file), 'utf8').includes("from 'csv-stringify"),
    );
    expect(writers).toEqual(['files/tableFile.ts']);
  });
});
