import { jest } from '@jest/globals';
import { sheetLayout } from '@rosemary/core';
import { fillPage, printPages, scan, type Filled, type ScanWish } from '@rosemary/standins';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** A test on paper, from a key typed in a row to results in the gradebook; the sheets are really printed, filled and scanned. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let base = '';
let quiz = '';
let itemId = '';
let folder = '';
jest.setTimeout(300_000);
const KEY = 'BDACCEABDA';
beforeAll(async () => {
  rosemary = await startRosemary('paper', true);
  h = hands(rosemary);
  folder = rosemary.makeFolder();
  await h.signInDemo('Ines Okafor-Lind');
  const { courses } = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  base = `/courses/${courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
  const { units } = await h.api<{ units: { id: string }[] }>('GET', `${base}/plan`);
  const made = await h.api<{ id: string }>('POST', `${base}/items`, {
    unitId: units[2]?.id,
    kind: 'quiz',
    title: 'Tools by name',
    position: 0,
  });
  itemId = made.id;
  quiz = `${base}/quizzes/${itemId}`;
  // In a category, so that its results move a total.
  await rosemary.query(
    "update grade_column set category_id = (select c.id from category c where c.course_id = grade_column.course_id and c.title = 'Exercises') where item_id = $1",
    [itemId],
  );
});
afterAll(() => rosemary?.close());
const grades = async (): Promise<string[]> =>
  (await rosemary.query('select raw from work_grade where item_id = $1 and raw is not null order by raw', [itemId])).rows.map(
    (r) => r.raw as string,
  );

describe('a test on paper', () => {
  it('is there as soon as its key is typed', async () => {
    await h.go(quiz);
    await h.click(h.button('only a key'));
    await h.type(h.field('Key'), 'bdacc eabdx');
    await h.text('“X” is no answer');
    await h.fill(h.field('Key'), KEY);
    await h.text('10 questions, 10 points');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Make 10 questions'));
    await h.text('Question 10');
  });

  it('has its sheets made and printed', async () => {
    await h.click(h.button('On paper'));
    await h.text('10 of 10 questions on the sheet');
    await h.click(h.button('Open to students'));
    // Its points stand in the floor and the reach of everybody from now on.
    await h.click(h.button('Apply'));
    await h.text('open to students by its dates');
    await h.click(h.button('Make the answer sheets'));
    await h.text('the paper stays as it is since');
    expect(await h.isAccessible()).toEqual([]);
    const paper = await h.download(`/api${quiz}/paper-test/question-paper`);
    expect(paper.subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('is read from scans; what is doubtful is decided by a key, and the next row comes to hand', async () => {
    const wish: ScanWish = { seed: 'journey', hand: 'full', dots: 110, trouble: 0.4 };
    const [page] = sheetLayout({
      ...{ questions: [...KEY].map(() => ({ options: 5, isMany: false })), columns: 3, spacing: 'roomy', alternates: true },
    });
    const printed = await printPages(await h.download(`/api${quiz}/paper-test/sheets`), 110, [0, 1, 2]);
    const right = [...KEY].map((letter): Filled => ({ marked: [letter.charCodeAt(0) - 65] }));
    const two = right.map((f, n) => (n === 0 || n === 4 ? { marked: [0, 3] } : f));
    const paths = printed.map((one, n) => {
      const filled = n === 1 ? two : right;
      const full = { ...wish, seed: `journey ${n}`, isUpsideDown: n === 2 };
      const path = join(folder, `page ${n + 1}.jpg`);
      writeFileSync(path, scan(fillPage(one, page ?? { page: 0, rows: [] }, new Map(filled.map((f, k) => [k, f])), full), full));
      return path;
    });
    const none = join(folder, 'none.png');
    writeFileSync(none, printed[0]?.toBuffer('image/png').subarray(0, 400) ?? '');
    await h.type(h.css('input[type=file]'), [...paths, none].join('\n'));
    await h.text('3 pages are read, one could not be.');
    await h.text('none.png');
    await h.text('2 rows to look at');
    expect(await h.isAccessible()).toEqual([]);
    await rosemary.driver.executeScript("document.querySelector('.doubt').focus()");
    await h.press('b');
    await h.text('One row to look at');
    await h.eventually(
      () => rosemary.driver.executeScript<boolean>("return document.activeElement.classList.contains('doubt')"),
      'the next row is not at hand',
    );
    await h.press('-');
    await h.gone('.doubt');
  });

  it('becomes results once whom it moves was shown, and can be taken back', async () => {
    await h.click(h.button('Record 3 results'));
    await h.click(h.button('Apply'));
    await h.text('3 results are in the gradebook.');
    expect(await grades()).toEqual(['9.000', '10.000', '10.000']);
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await grades()).length === 0, 'not taken back');
    await h.click(h.button('Record 3 results'));
    await h.click(h.button('Apply'));
    await h.eventually(async () => (await grades()).length === 3, 'not brought in');
  });

  it('takes answers that are typed, and says what is wrong with them', async () => {
    const field = h.css('tr:nth-child(4) .answers input');
    await h.fill(field, `BDAC${Key.TAB}`);
    await h.text('There are 4 answers for 10 questions');
    await h.fill(h.css('tr:nth-child(4) .answers input'), `${KEY}${Key.TAB}`);
    await h.text('Record one result');
    await h.click(h.button('answers from a table'));
    await h.type(h.field('Table'), 'email,answers\nnobody@example.org,ABC');
    await h.click(h.button('Look at it'));
    await h.text('No student of this test has the address');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Leave it'));
    await h.go(`${quiz}/results`);
    await h.text('on paper');
    expect(await h.consoleErrors()).toEqual([]);
  });

  it('is followed by a message to whoever missed the mark, which can be taken back', async () => {
    await h.click(h.button('Add a follow-up'));
    await h.fill(h.field('Points'), `9.5${Key.TAB}`);
    await h.type(h.field('Subject'), 'Come on Friday');
    await h.type(h.field('Message'), 'We lay the tools out once more.');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Keep it'));
    await h.text('Whoever has less than 9.5 gets the message “Come on Friday”');
    await h.eventually(
      async () => (await rosemary.query("select 1 from conversation where title = 'Come on Friday'")).rowCount === 1,
      'nobody is written to',
    );
    await h.go(`${quiz}/results`);
    await h.click(h.button('done for one'));
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.css('.done .act'));
    await h.text('Taken back.');
    expect((await rosemary.query("select 1 from conversation where title = 'Come on Friday'")).rowCount).toBe(0);
    expect(await h.consoleErrors()).toEqual([]);
  });
});
