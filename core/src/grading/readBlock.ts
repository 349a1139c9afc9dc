/**
 * Reads a block of cells as spreadsheets put it on the clipboard: tabs between columns, lines between rows.
 *
 * Convention: a cell that begins with a quotation mark runs to the next single one and may hold tabs and line breaks; two marks stand for
 * one. A byte-order mark and the line break at the very end are no cells. Rows may differ in length.
 * Shapes: rows of cells, each without the white space around it. An empty text is one empty cell.
 * Worked example: `readBlock('12\t"a\nb"\r\n13\te\n')` is `[['12', 'a\nb'], ['13', 'e']]`.
 */
export function readBlock(text: string): readonly (readonly string[])[] {
  const source = text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n');
  const rows: string[][] = [[]];
  let cell = '';
  let isQuoted = false;
  const endCell = (): void => {
    rows.at(-1)?.push(cell.trim());
    cell = '';
  };
  for (let n = 0; n < source.length; n += 1) {
    const sign = source.charAt(n);
    if (isQuoted) {
      if (sign !== '"') cell += sign;
      else if (source.charAt(n + 1) === '"') {
        cell += '"';
        n += 1;
      } else isQuoted = false;
    } else if (sign === '"' && cell === '') isQuoted = true;
    else if (sign === '\t') endCell();
    else if (sign === '\n') {
      endCell();
      if (n < source.length - 1) rows.push([]);
      else return rows;
    } else cell += sign;
  }
  endCell();
  return rows;
}
