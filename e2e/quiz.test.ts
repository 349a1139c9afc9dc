import { Key, type WebDriver } from 'selenium-webdriver';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** A quiz from the list it is typed as to the corrected key, taken on two devices with the line cut in between. */
let rosemary: Rosemary;
let other: Rosemary;
let courseId: string;
let itemId: string;
beforeAll(async () => {
  rosemary = await startRosemary('quiz', true);
}, 240_000);
afterAll(() => rosemary.close());

const LIST = `1. Which part locks the escape wheel? (2 points)
a) the pallet stone *
b) the roller
c) the barrel

2. Which of these lower the amplitude?
a) thick oil *
b) a set mainspring *
c) a new strap

3. The roller carries the jewel.
a) True *
b) False

4. A movement beats 5 times a second. How many times an hour?
→ 18000

5. What holds the outer end of the hairspring?
→ stud; the stud

6. The [lever] is moved by the [roller jewel].

7. What does each part do?
lever ↔ carries the pallets
jewel ↔ moves the lever

8. Say why the drop must be even. (4 points)`;

async function offline(driver: WebDriver, isOffline: boolean): Promise<void> {
  const chrome = driver as WebDriver & { sendDevToolsCommand: (name: string, body?: object) => Promise<void> };
  await chrome.sendDevToolsCommand('Network.enable');
  await chrome.sendDevToolsCommand('Network.emulateNetworkConditions', {
    offline: isOffline,
    latency: 0,
    downloadThroughput: -1,
    uploadThroughput: -1,
  });
}
const studentsOf = async (): Promise<number> =>
  Number(
    (
      await rosemary.query(
        'select count(*) as n from quiz_answer a join quiz_attempt t on t.id = a.attempt_id where t.item_id = $1 and a.answer is not null',
        [itemId],
      )
    ).rows[0].n,
  );

describe('a quiz', () => {
  it('is made as fast as its list is typed', async () => {
    const h = hands(rosemary);
    await h.signInDemo('Ines Okafor-Lind');
    courseId = (await rosemary.query("select id from course where code = 'HOR-110' and run = 'autumn'")).rows[0].id as string;
    const { rows } = await rosemary.query("select id from unit where course_id = $1 and title = 'The escapement'", [courseId]);
    const made = await h.api<{ id: string }>('POST', `/courses/${courseId}/items`, {
      unitId: rows[0].id,
      kind: 'quiz',
      title: 'Locks and springs',
      position: 0,
    });
    itemId = made.id;
    const category = (await rosemary.query("select id from category where course_id = $1 and title = 'Exercises'", [courseId])).rows[0]
      .id as string;
    await h.api('PATCH', `/courses/${courseId}/items/${itemId}`, { version: 1, categoryId: category });
    await h.go(`/courses/${courseId}/items/${itemId}`);
    await h.text('No question yet. Begin with one');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('paste a list'));
    await h.fill(h.field('The list'), LIST);
    await h.click(h.button('Make 8 questions'));
    await h.eventually(async () => (await rosemary.driver.findElements({ css: '.paper .q' })).length === 8, 'eight questions on the paper');
    await h.text('8 questions, 12 points');
  }, 150_000);

  const add = async (kind: string, word: string, words: string, many: number): Promise<void> => {
    const h = hands(rosemary);
    await h.click(h.button('Add question'));
    // The new one is open, and no longer the one before.
    await h.eventually(
      async () =>
        (await rosemary.driver.executeScript<string>("return document.querySelector('.q.on .no')?.textContent ?? ''")).trim() ===
        String(many),
      `question ${many} is open`,
    );
    await h.css('.q.on .ProseMirror');
    await h.set(h.field('Kind'), kind);
    await h.text(word, 'h3');
    await h.type(h.css('.q.on .ProseMirror'), words);
  };
  const isKept = (sql: string): Promise<boolean> =>
    hands(rosemary).eventually(
      async () => ((await rosemary.query(`select 1 from question_version where ${sql}`)).rowCount ?? 0) > 0,
      `kept: ${sql}`,
    );

  it('has numbers that differ and things in order, written where they stand', async () => {
    const h = hands(rosemary);
    await add('calculated', 'calculated', 'How many turns for teeth: ', 9);
    await h.fill(h.field('Formula of the answer'), `a * 2${Key.TAB}`);
    await h.click(h.button('into the text'));
    await h.css('.q.on .place.value');
    await isKept("plain like 'How many turns for teeth%' and words::text like '%\"value\"%' and key::text like '%a * 2%'");
    await add('ordering', 'ordering', 'In which order?', 10);
    await h.fill(h.field('Thing 1'), `first${Key.TAB}`);
    await h.fill(h.field('Thing 2'), `second${Key.TAB}`);
    await isKept("plain = 'In which order?' and key::text like '%second%'");
  }, 150_000);

  it('has a place in a picture and a file, and is all there when it is opened anew', async () => {
    const h = hands(rosemary);
    await add('hotspot', 'place in a picture', 'Point to the escape wheel.', 11);
    await h.choose(h.css('.q.on .key .action-menu'), 'Going train.png');
    await h.click(h.button('Add rectangle by numbers'));
    await isKept("plain = 'Point to the escape wheel.' and key::text like '%rectangle%'");
    await add('file', 'file', 'Give your drawing.', 12);
    await isKept("plain = 'Give your drawing.' and kind = 'file'");
    await h.go(`/courses/${courseId}/quizzes/${itemId}`);
    await h.text('12 questions, 16 points');
    await h.text('a × 2');
    await h.text('1. first');
    await h.text('1 place in the picture');
    expect(await h.isAccessible()).toEqual([]);
    expect(await h.consoleErrors()).toEqual([]);
  }, 150_000);

  it('is tried, set and opened', async () => {
    const h = hands(rosemary);
    await h.click(h.css('.q .shown'));
    await h.click(h.button('try it'));
    await h.click(h.css('.try .choice input'));
    await h.click(h.button('Score it'));
    await h.eventually(async () => (await h.has('100 %')) || (await h.has('Not the right answer.')), 'the try is scored');
    await h.click(h.button('close'));
    await h.click(h.button('Settings'));
    await h.fill(h.field('Time limit, minutes'), `40${Key.TAB}`);
    await h.text('40 min');
    await h.click(h.button('Open to students'));
    // Its points stand in the floor and the reach of everybody from now on: whom it moves is shown first.
    await h.text('Not yet applied');
    await h.click(h.button('Apply'));
    await h.text('quiz · open');
  }, 150_000);

  it('is taken with the line cut: what is answered meanwhile is kept and sent', async () => {
    other = await rosemary.second();
    const s = hands(other);
    await s.signInDemo('Ondine Garrick');
    await s.go(`/courses/${courseId}/study/${itemId}`);
    await s.text('12 questions');
    expect(await s.isAccessible()).toEqual([]);
    await s.click(s.button('Begin'));
    await s.css('.taking .choice');
    expect(await s.isAccessible()).toEqual([]);
    await s.press('1');
    await s.text('Saved ');
    expect(await studentsOf()).toBe(1);
    await offline(other.driver, true);
    await s.press(Key.ARROW_RIGHT);
    await s.text('Question 2 of 12');
    await s.press('1');
    await s.press('2');
    await s.text('No connection. One answer is kept here');
    expect(await studentsOf()).toBe(1);
    await offline(other.driver, false);
    await s.text('Saved ');
    await s.eventually(async () => (await studentsOf()) === 2, 'the second answer arrived');
  }, 150_000);

  it('lets neither of two devices write over the other unseen', async () => {
    const s = hands(other);
    const third = await rosemary.second();
    const d = hands(third);
    await d.signInDemo('Ondine Garrick');
    const here = await other.driver.getCurrentUrl();
    await s.press(Key.ARROW_RIGHT, Key.ARROW_RIGHT);
    await s.type(s.field('Question 4, your answer'), '1');
    await s.eventually(async () => (await studentsOf()) === 3, 'the first device saved');
    await d.go(new URL(here).pathname);
    await d.click(d.css('.beads li:nth-child(4) button'));
    await d.fill(d.field('Question 4, your answer'), '18000');
    await d.text('Saved ');
    await d.eventually(
      async () => (await rosemary.query("select 1 from quiz_answer where answer ->> 'text' = '18000'")).rowCount === 1,
      'the second device saved',
    );
    await s.type(s.field('Question 4, your answer'), '7');
    await s.text('This question was answered in another window meanwhile.');
    await s.click(s.button('Take what stands there'));
    await s.eventually(async () => (await (await s.field('Question 4, your answer')).getAttribute('value')) === '18000', 'theirs stands');
  }, 150_000);

  it('goes on where it was after the server fell over and the page was left', async () => {
    const s = hands(other);
    await s.press(Key.TAB);
    rosemary.kill();
    await s.click(s.css('.beads li:nth-child(5) button'));
    await s.type(s.field('Question 5, your answer'), 'the stud');
    await s.text('No connection.');
    await rosemary.restart();
    await other.driver.navigate().refresh();
    await s.text('Question 5 of 12');
    await s.eventually(
      async () => (await rosemary.query("select 1 from quiz_answer where answer ->> 'text' = 'the stud'")).rowCount === 1,
      'what was typed while the server was away arrived',
    );
    expect(await (await s.field('Question 5, your answer')).getAttribute('value')).toBe('the stud');
  }, 150_000);

  it('is answered in every kind by the keyboard, and handed in', async () => {
    const s = hands(other);
    const to = async (n: number): Promise<void> => {
      await s.click(s.css(`.beads li:nth-child(${n}) button`));
      await s.text(`Question ${n} of 12`);
    };
    await to(3);
    await s.press('1');
    await to(6);
    await s.type(s.field('Question 6, blank 1 of 2'), 'lever');
    await s.type(s.field('Question 6, blank 2 of 2'), 'Roller  jewel');
    await to(7);
    await s.set(s.field('Question 7: lever'), 'carries the pallets');
    await s.set(s.field('Question 7: jewel'), 'moves the lever');
    await to(8);
    await s.type(s.css('.question .ProseMirror'), 'Else one stone wears more.');
    await to(9);
    const teeth = await other.driver.executeScript<string>("return document.querySelector('.question strong').textContent");
    await s.type(s.field('Question 9, your answer'), String(Number(teeth) * 2));
    await to(10);
    const first = await s.css('.thing');
    const isFirst = (await first.getText()).includes('first');
    if (isFirst) await s.click(s.button('They are right as they stand'));
    else await s.type(first, Key.chord(Key.ALT, Key.ARROW_DOWN));
    await to(11);
    await s.type(s.css('.spot .holder'), Key.ARROW_RIGHT);
    await s.text('51 % from the left');
    await s.eventually(async () => (await studentsOf()) === 11, 'eleven answers are there');
    expect(await s.isAccessible()).toEqual([]);
    await to(12);
    await s.click(s.button('Hand in'));
    await s.text('One question is not answered.');
    await s.click(s.css('.ask .go'));
    await s.text('waits to be marked');
    await s.click(s.button('your paper'));
    await s.text('Some of it waits to be marked');
    expect(await s.isAccessible()).toEqual([]);
  }, 150_000);

  it('waits for a person where one is needed, and is scored when they are done', async () => {
    const h = hands(rosemary);
    await h.go(`/courses/${courseId}/quizzes/${itemId}/results`);
    await h.text('To mark', 'h2');
    await h.text('marked by everyone, of the students they reach');
    await h.click(h.button('share out'));
    await h.click(h.css('.among label:last-of-type input'));
    await h.text('to mark.');
    expect((await rosemary.query('select 1 from question_share where item_id = $1', [itemId])).rowCount).toBe(1);
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Undo'));
    await h.text('marked by everyone, of the students they reach');
    await h.click(h.button('Say why the drop must be even.'));
    await h.text('Else one stone wears more.');
    await h.fill(h.field('Points for this answer'), `3${Key.ENTER}`);
    await h.text('Nothing waits.');
    await h.go(`/courses/${courseId}/quizzes/${itemId}/results`);
    await h.text('scored 1');
    const { rows } = await rosemary.query('select raw, is_released from work_grade where item_id = $1', [itemId]);
    expect(rows).toHaveLength(1);
    expect(rows[0].is_released).toBe(true);
    expect(await h.consoleErrors()).toEqual([]);
  }, 150_000);

  it('has its key corrected with the ripple first, and the way back', async () => {
    const h = hands(rosemary);
    const raw = async (): Promise<string> =>
      (await rosemary.query('select raw from work_grade where item_id = $1', [itemId])).rows[0].raw as string;
    const before = Number(await raw());
    await h.go(`/courses/${courseId}/quizzes/${itemId}/figures`);
    await h.text('Fewer than thirty attempts');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Give your drawing.'));
    await h.click(h.button('Correct this question'));
    await h.click(h.field('everybody has all its points'));
    await h.click(h.button('Show whom it moves'));
    await h.text('Say why. The reason stands in the ledger.');
    await h.fill(h.field('Why; it stands in the ledger'), 'nobody could send a file');
    await h.click(h.button('Show whom it moves'));
    await h.click(h.button('Apply'));
    await h.text('Corrected, and every attempt marked again.');
    expect(Number(await raw())).toBe(before + 1);
    await h.click(h.button('Undo'));
    await h.eventually(async () => Number(await raw()) === before, 'the correction is taken back');
    await h.go(`/courses/${courseId}/bank`);
    await h.css('.rows');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Import'));
    await h.click(h.button('A table (CSV)'));
    await h.type(h.field('Table'), 'kind;words;answers\nshort;Which wheel drives the pallets?;100: escape wheel\nriddle;Why?;x');
    await h.click(h.button('Look at it'));
    await h.text('kind: “riddle” is none');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Import one question, leave out 1'));
    await h.text('One question is in the bank.');
    await h.text('Which wheel drives the pallets?');
    expect(await h.consoleErrors()).toEqual([]);
  }, 150_000);

  it('can be taken and read on a telephone', async () => {
    const s = hands(other);
    await s.phone();
    const { rows } = await rosemary.query("select id from item where course_id = $1 and title = 'Trains and locks'", [courseId]);
    await s.go(`/courses/${courseId}/study/${rows[0].id}`);
    await s.css('.start');
    expect(await other.driver.executeScript<number>('return document.documentElement.scrollWidth')).toBeLessThanOrEqual(390);
    expect(await s.isAccessible()).toEqual([]);
  });
});
