import { readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import ts from 'typescript';

/** Rows are read and written in sets: a statement inside a loop is named here with why it cannot be one statement. */
const ONE_BY_ONE: { readonly [place: string]: string } = {
  'handover/record.ts': 'a record for each section that has become whole: a few',
  'files/parts.ts': 'the bytes of an upload are read part by part, so that no more than one is held',
  'files/store.ts': 'the bytes of a file are written and read chunk by chunk, so that no more than one is held',
  'files/tidy.ts': 'one statement for each column that may name a file; there are as many as the schema has',
  'items/copyPart.ts': 'one statement for each table of parts, whatever the number of items',
  'marking/together.ts': 'a savepoint for each work, so that one that cannot be marked keeps none from it',
  'offline/bringSheet.ts': 'a savepoint for each line, so that one that cannot be read keeps none from it',
  'paperTest/scans.ts': 'a page is read from its picture and kept before the next one is held',
  'quizTaking/answers.ts': 'a save that met another one reads again what stands there; it is one save',
};

const ROOT = resolve(import.meta.dirname, '../src');
const STATEMENT = /^(rows|run|maybe|often)$/;
const isLoop = (node: ts.Node): boolean =>
  ts.isForOfStatement(node) || ts.isForStatement(node) || ts.isForInStatement(node) || ts.isWhileStatement(node) || ts.isDoStatement(node);

/** The lines of a text at which a statement goes to the database inside a loop. */
export function statementsInLoops(text: string): number[] {
  const source = ts.createSourceFile('x.ts', text, ts.ScriptTarget.Latest, true);
  const found: number[] = [];
  const visit = (node: ts.Node, inLoop: boolean): void => {
    if (inLoop && ts.isCallExpression(node)) {
      const called = node.expression.getText();
      if (STATEMENT.test(called) || called.endsWith('db.query')) found.push(source.getLineAndCharacterOfPosition(node.getStart()).line + 1);
    }
    ts.forEachChild(node, (child) => {
      // What a loop goes over is read once.
      visit(child, inLoop || (isLoop(node) && !(ts.isForOfStatement(node) && child === node.expression)));
    });
  };
  visit(source, false);
  return found;
}

describe('statements in loops', () => {
  it('are found wherever they stand in one, and not where the loop only goes over what they gave', () => {
    expect(statementsInLoops('for (const x of await rows(db, a)) {\n  if (x) await run(db, b);\n}\nawait run(db, c);')).toEqual([2]);
    expect(statementsInLoops('while (true)\n  await c.db.query(a);')).toEqual([2]);
  });

  it('are there only where it is said why, and every reason is still needed', () => {
    const places = readdirSync(ROOT, { recursive: true, encoding: 'utf8' })
      .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts') && !file.startsWith('platform/'))
      .flatMap((file) => statementsInLoops(readFileSync(join(ROOT, file), 'utf8')).map((line) => `${file}:${line}`));
    expect(places.filter((place) => !((place.split(':')[0] ?? '') in ONE_BY_ONE))).toEqual([]);
    expect(Object.keys(ONE_BY_ONE).filter((file) => !places.some((place) => place.startsWith(`${file}:`)))).toEqual([]);
  });
});
