import { By, Key } from 'selenium-webdriver';
import { jest } from '@jest/globals';
import { writeFileSync } from 'node:fs';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** A teacher who knows spreadsheets only: a class activity made, pasted, filled and curved, policy and past, a file out and in; and a student who supposes. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let base = '';
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('spreadsheet', true);
  h = hands(rosemary);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  base = `/courses/${me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
});
afterAll(() => rosemary?.close());

interface Book {
  readonly columns: readonly { readonly id: string; readonly title: string; readonly hasCurve: boolean }[];
  readonly rows: readonly {
    readonly familyName: string;
    readonly cells: readonly (0 | readonly unknown[])[];
    readonly totals: { readonly soFar: string | null };
  }[];
}
const book = (): Promise<Book> => h.api<Book>('GET', `${base}/gradebook`);
const givenIn = async (title: string): Promise<unknown[]> => {
  const read = await book();
  const place = read.columns.findIndex((c) => c.title === title);
  return read.rows.map((r) => {
    const cell = r.cells[place];
    return cell === 0 || cell === undefined ? null : cell[6];
  });
};
const paste = (text: string): Promise<unknown> =>
  rosemary.driver.executeScript(
    "const data = new DataTransfer(); data.setData('text/plain', arguments[0]); document.querySelector('[role=grid]').dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))",
    text,
  );
/** The first cell of a column, wherever it stands: the grid is brought to it by its own keys. */
async function chooseColumn(title: string): Promise<void> {
  await h.css('[role=row][aria-rowindex="2"] [role=gridcell]');
  await rosemary.driver.executeScript("document.querySelector('[role=grid]').focus()");
  await rosemary.driver.actions().keyDown(Key.CONTROL).sendKeys(Key.HOME).keyUp(Key.CONTROL).perform();
  const at = await rosemary.driver.executeAsyncScript<number>(
    `const [title, done] = arguments;
     const look = () => [...document.querySelectorAll('[role=columnheader]')].find((e) => e.querySelector('.title')?.textContent === title);
     const step = () => { const found = look(); if (found) { done(Number(found.getAttribute('aria-colindex'))); return; }
       const grid = document.querySelector('[role=grid]'); grid.scrollLeft += 300; requestAnimationFrame(() => requestAnimationFrame(step)); };
     step();`,
    title,
  );
  // By keys: they bring the cell out from under the totals, as no click could.
  await rosemary.driver.actions().keyDown(Key.CONTROL).sendKeys(Key.HOME).keyUp(Key.CONTROL).perform();
  await h.press(...Array.from({ length: at - 2 }, () => Key.ARROW_RIGHT));
  await h.eventually(
    async () =>
      (await rosemary.driver.executeScript("return document.querySelector('[role=grid]').getAttribute('aria-activedescendant')")) ===
      `cell-0-${at - 2}`,
    'not chosen',
  );
}

const openHead = (): Promise<void> => rosemary.driver.actions().keyDown(Key.ALT).sendKeys(Key.ARROW_DOWN).keyUp(Key.ALT).perform();

describe('a teacher who knows spreadsheets', () => {
  it('makes a column for what was done in class, and sees whom it moves first', async () => {
    await h.go(`${base}/gradebook`);
    await h.click(h.button('Add column'));
    await h.fill(h.css('[aria-label="New column"] label.title input'), 'Bench oral');
    await h.click(h.css('[aria-label="New column"] button[type=submit]'));
    await h.text('The floor of');
    await h.click(h.css('[aria-label="Ripple of a change"] .go'));
    await h.text('“Bench oral” added.');
    expect((await book()).columns.map((c) => c.title)).toContain('Bench oral');
  });

  it('pastes a block, sees what cannot be read, and writes the rest as one act', async () => {
    await chooseColumn('Bench oral');
    await paste('7\r\n8,5\r\nten\r\n90 %\r\ne\r\n');
    await h.text('4 cells change');
    await h.text('“ten” is not a number of points');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Write 4 cells'));
    await h.text('4 cells written.');
    expect((await givenIn('Bench oral')).slice(0, 6)).toEqual([7000, 8500, null, 9000, 'exempt', null]);
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await givenIn('Bench oral')).every((given) => given === null), 'not undone');
    await rosemary.driver.actions().keyDown(Key.CONTROL).keyDown(Key.SHIFT).sendKeys('z').keyUp(Key.SHIFT).keyUp(Key.CONTROL).perform();
    await h.eventually(async () => (await givenIn('Bench oral'))[0] === 7000, 'not done again');
  });

  it('fills the empty cells of the column, opened at its head by a key', async () => {
    await chooseColumn('Bench oral');
    await openHead();
    await h.text('mean and median are shown from five results on'.replace('mean', 'Mean'));
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Fill the column'));
    await h.fill(h.css('[aria-label="Fill Bench oral"] input:not([type=radio]):not([type=checkbox])'), '6');
    await h.click(h.button('See what changes'));
    await h.text('44 cells change');
    await h.click(h.button('Write 44 cells'));
    await h.text('44 cells written.');
    expect(new Set(await givenIn('Bench oral'))).toEqual(new Set([7000, 8500, 6000, 9000, 'exempt']));
  });

  it('curves it, and the scores that were given stay', async () => {
    await chooseColumn('Bench oral');
    await openHead();
    await h.click(h.button('Curve…'));
    await h.fill(h.css('[aria-label=Curve] input[inputmode=decimal]'), '1');
    await h.text('rise, none fall');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.css('[aria-label=Curve] .go'));
    await h.text('“Bench oral” is curved.');
    const read = await book();
    const place = read.columns.findIndex((c) => c.title === 'Bench oral');
    expect(read.columns[place]?.hasCurve).toBe(true);
    expect([read.rows[0]?.cells[place]].map((cell) => (cell === 0 || cell === undefined ? null : [cell[1], cell[6]]))).toEqual([
      ['8', 7000],
    ]);
  });

  it('writes words on a result, one for staff and one for the student', async () => {
    await h.go(`${base}/gradebook`);
    await chooseColumn('Bench oral');
    const fields = By.css('.words textarea:not([aria-hidden])');
    await h.css('.words textarea');
    const [comment] = await rosemary.driver.findElements(fields);
    await comment?.sendKeys('Spoke freely.');
    await h.text('Saved ');
  });

  it('finds who changed what since last week, and takes it back from there', async () => {
    await h.click(h.button('Past ▾'));
    await h.click(h.button('What changed between'));
    await h.click(h.button('Compare'));
    await h.text('44 cells filled');
    await h.text('curve changed');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Undo all of them'));
    await h.text('cells undone.');
    expect((await givenIn('Bench oral')).filter((given) => given !== null).length).toBeLessThan(48);
    await h.click(h.css('[aria-label="What changed between two days"] .form-acts button'));
  });

  it('sees the gradebook as it stood when the policy was another, and nothing can be changed there', async () => {
    const past = await h.api<{ parts: { title: string; weightPercent: number }[] }>('GET', `${base}/gradebook?asOf=2026-10-01T20:00:00Z`);
    expect(past.parts[0]).toMatchObject({ title: 'Exercises', weightPercent: 30_000 });
    await h.click(h.button('Past ▾'));
    const field = await h.css('.past-choice input');
    await field.sendKeys('1 Oct', Key.ENTER);
    await h.text('As it stood on Thu 1 Oct');
    await h.text('30 %');
    expect(await h.has('Add column')).toBe(false);
    await h.click(h.button('Back to now'));
    await h.text('Add column');
  });

  it('opens a column: what changed in it, what is set of it, and names of its own by which it is read', async () => {
    await h.go(`${base}/gradebook`);
    await chooseColumn('Bench oral');
    await openHead();
    await h.click(h.button('What changed in it'));
    await h.text('What changed in “Bench oral”');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.css('[aria-label="What changed in Bench oral"] [aria-label^="The gradebook just after"]'));
    await h.text('Nothing can be changed here.');
    await h.click(h.button('Back to now'));
    await h.gone('p.past');
    await chooseColumn('Bench oral');
    await openHead();
    await h.click(h.button('Change the column'));
    await h.set(h.field('In the gradebook also'), 'letter');
    await h.click(h.button('Names of its own'));
    await h.text('How “Bench oral” is read');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Use these names'));
    await h.text('By names of its own: Excellent, Good, Sound, Weak, Not yet.');
    await h.press(Key.ESCAPE);
    const read = await book();
    expect(read.columns.find((c) => c.title === 'Bench oral')).toMatchObject({ takesLetters: true, ownLevels: { length: 5 } });
  });

  it('chooses a day on the term line by its keys, and prints the class', async () => {
    await h.go(`${base}/gradebook`);
    await h.click(h.button('Past ▾'));
    await h.click(h.button('Choose the day on the term line'));
    await h.press(Key.ARROW_UP, Key.ARROW_UP, Key.ENTER);
    await h.text('As it stood on');
    await h.click(h.button('Back to now'));
    await h.click(h.button('File'));
    await h.click(h.css('[role=menuitem][data-value=list]'));
    await h.text('48 students · as of');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Back to the gradebook'));
    await h.css('[role=grid]');
  });

  it('takes the gradebook out, changes it in the file and brings it in again', async () => {
    const bytes = await h.download(`/api${base}/gradebook/table?format=csv&whole=1`);
    const lines = bytes.toString('utf8').split('\n');
    const at = (lines[0] ?? '').split(',').indexOf('Bench oral');
    expect(at).toBeGreaterThan(0);
    // Names with commas stand in quotation marks, so the second student’s result is set by its own small table.
    const folder = mkdtempSync(join(tmpdir(), 'rosemary-table-'));
    const file = join(folder, 'results.csv');
    const second = (await book()).rows[1];
    const id = (lines.find((line) => line.includes(second?.familyName ?? '–')) ?? '').split(',')[0] ?? '';
    writeFileSync(file, `Rosemary ID;Bench oral;Spot check\n${id};9,5;3\n`);
    await h.click(h.button('File'));
    await h.click(h.css('[role=menuitem][data-value=import]'));
    await (await h.css('[aria-label="Import results"] input[type=file]')).sendKeys(file);
    await h.text('1 student and 1 column are taken.');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('See what changes'));
    await h.text('1 cell changes');
    await h.click(h.button('Write 1 cell'));
    await h.text('1 cell written.');
    expect((await givenIn('Bench oral'))[1]).toBe(9500);
  });

  it('orders, narrows and highlights the grid, and finds it so again', async () => {
    await h.click(h.button('View ▾'));
    await h.choose(h.css('[aria-label="Order of the columns"]'), 'as in the Plan');
    await h.choose(h.css('[aria-label="Students that are shown"]'), 'have something missing');
    await h.text('only those who have something missing');
    expect(await h.isAccessible()).toEqual([]);
    await h.press(Key.ESCAPE);
    await h.go(`${base}/gradebook`);
    await h.text('only those who have something missing');
    await h.click(h.button('show everything'));
    await h.text('48 students');
    await h.fill(h.css('[aria-label="Find a student in the gradebook"]'), 'abiola');
    await h.text('1 student');
  });

  it('has no errors in the browser', async () => {
    expect(await h.consoleErrors()).toEqual([]);
  });
});

describe('a student', () => {
  it('supposes a result and sees what it would make of the grade, on a phone too', async () => {
    await h.signOut();
    await h.signInDemo('Ondine Garrick');
    await h.go(`${base}/grades`);
    const before = await (await h.css('.big')).getText();
    await h.click(h.css('.total summary'));
    await h.text('Type results that you do not have yet.');
    await h.text('What would I need for');
    await h.fill(h.css('.suppose input[inputmode=decimal]'), '100 %');
    await h.css('.suppose .made b');
    expect(await h.isAccessible()).toEqual([]);
    await h.phone();
    expect(await h.isAccessible()).toEqual([]);
    const overflow = await rosemary.driver.executeScript<number>('return document.documentElement.scrollWidth - window.innerWidth');
    expect(overflow).toBeLessThanOrEqual(0);
    await h.go(`${base}/grades`);
    // It was never sent: the real total is what it was.
    expect(await (await h.css('.big')).getText()).toBe(before);
    expect(await h.consoleErrors()).toEqual([]);
  });
});
