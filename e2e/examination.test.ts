import { jest } from '@jest/globals';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** An examination beyond one course: taken out and brought in, shared with a colleague, and sat in a room with a code and two lines of attainment. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let foundations = '';
let escapements = '';
let quizId = '';
let folder = '';
jest.setTimeout(240_000);
const TITLE = 'In the room';
const LIST = `1. Which part locks the escape wheel?
a) the pallet stone *
b) the roller

2. The roller carries the jewel.
a) True *
b) False

3. What holds the outer end of the hairspring?
→ stud`;
beforeAll(async () => {
  rosemary = await startRosemary('exam', true);
  h = hands(rosemary);
  folder = rosemary.makeFolder();
  await h.signInDemo('Ines Okafor-Lind');
  const { courses } = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  foundations = `/courses/${courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
  escapements = `/courses/${courses.find((c) => c.code === 'HOR-205')?.id ?? ''}`;
  const { units } = await h.api<{ units: { id: string }[] }>('GET', `${foundations}/plan`);
  const wish = { unitId: units[2]?.id, kind: 'quiz', title: TITLE, position: 0 };
  quizId = (await h.api<{ id: string }>('POST', `${foundations}/items`, wish)).id;
});
afterAll(() => rosemary?.close());
const idIn = async (course: string, title: string): Promise<string | undefined> =>
  (await h.api<{ units: { items: { id: string; title: string }[] }[] }>('GET', `${course}/plan`)).units
    .flatMap((u) => u.items)
    .find((i) => i.title === title)?.id;

describe('an examination', () => {
  it('is set for a room: a code, and two lines of attainment, the second above the first', async () => {
    await h.go(`${foundations}/quizzes/${quizId}`);
    await h.click(h.button('paste a list'));
    await h.fill(h.field('The list'), LIST);
    await h.click(h.button('Make 3 questions'));
    await h.text('3 questions, 3 points');
    await h.click(h.button('close'));
    const order = async (): Promise<string> =>
      (await rosemary.query('select string_agg(v.kind, \' \' order by p.position) as kinds from quiz_part p join quiz_section s on s.id = p.section_id join question_version v on v.question_id = p.question_id where s.item_id = $1', [quizId])).rows[0].kinds as string; // prettier-ignore
    await h.drag(await h.css('.q:nth-child(3) .no'), await h.css('.q:nth-child(1) .no'));
    await h.eventually(async () => (await order()) === 'short single truth', 'the third question stands first');
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await order()) === 'single truth short', 'it stands where it was');
    await h.click(h.button('Settings'));
    await h.fill(h.field('Pass, points'), `2${Key.TAB}`);
    await h.text('Saved ');
    await h.fill(h.field('With merit, points'), `1${Key.TAB}`);
    await h.text('The second line of attainment lies above the first. Give it more points.');
    await h.fill(h.field('With merit, points'), `3${Key.TAB}`);
    await h.fill(h.field('Code shown in the room'), `bell${Key.TAB}`);
    await h.eventually(
      async () =>
        (await rosemary.query("select 1 from quiz where item_id = $1 and access_code = 'bell' and pass_points = 2 and merit_points = 3", [quizId])) // prettier-ignore
        .rowCount === 1,
      'the lines and the code are kept',
    );
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Open to students'));
    await h.text('quiz · open');
  });

  it('goes out as a package of the open standard, which says what it cannot hold', async () => {
    await h.click(h.button('Export a package'));
    await h.text('the standard has words for all that is in them');
    await h.click(h.field('QTI 2.1'));
    const link = await h.css('a.go[href*="version=2.1"]');
    expect(await h.isAccessible()).toEqual([]);
    const bytes = await h.download((await link.getAttribute('href')) ?? '');
    expect(bytes.subarray(0, 2).toString()).toBe('PK');
    writeFileSync(join(folder, 'room.zip'), bytes);
    await h.click(h.button('Leave it'));
  });

  it('comes in elsewhere, looked at first, as questions and as a quiz, and can be taken back', async () => {
    await h.go(`${escapements}/bank`);
    await h.css('.list');
    await h.click(h.button('Import'));
    await h.type(h.css('input[type=file][accept*=zip]'), join(folder, 'room.zip'));
    await h.text('a test of 3 questions');
    await h.text('What holds the outer end of the hairspring?');
    expect(await h.isAccessible()).toEqual([]);
    await h.choose(h.field('Make a quiz of it'), 1);
    await h.click(h.button('Import 3 questions'));
    await h.text('3 questions are in the bank, one quiz in the Plan as a draft.');
    const there = await idIn(escapements, TITLE);
    const setting = (await rosemary.query('select access_code, pass_points::text as pass, merit_points::text as merit from quiz where item_id = $1', [there])).rows[0]; // prettier-ignore
    // The lines come along; the code was made for one room.
    expect(setting).toEqual({ access_code: '', pass: '2.000', merit: '3.000' });
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await idIn(escapements, TITLE)) === undefined, 'the quiz is taken back');
    expect(await h.consoleErrors()).toEqual([]);
  });

  it('stands in a bank whose courses are listed, taken out and taken in again', async () => {
    await h.go(`${foundations}/bank`);
    await h.click(h.button('HOR-110'));
    await h.click(h.button('share'));
    await h.text('Courses that use this bank');
    expect(await h.isAccessible()).toEqual([]);
    const out = async (): Promise<boolean> =>
      (await rosemary.query('select 1 from bank_course where removed_at is not null')).rowCount === 1;
    await h.click(h.button('Remove'));
    await h.text('Its quizzes keep their questions.');
    expect(await out()).toBe(true);
    await h.click(h.button('Close'));
    await h.click(h.button('Undo'));
    await h.eventually(async () => !(await out()), 'the course is not in again');
    expect(await h.consoleErrors()).toEqual([]);
  });

  it('is shared with a colleague, who makes a copy of their own', async () => {
    await h.go(`${foundations}/quizzes/${quizId}`);
    await h.click(h.button('Settings'));
    await h.click(h.button('share it with a colleague'));
    await h.fill(h.field('A colleague’s email'), 'nobody@tallowmere.example');
    await h.click(h.button('Share it'));
    await h.text('Nobody here has the email “nobody@tallowmere.example”.');
    await h.fill(h.field('A colleague’s email'), 'maribel@tallowmere.example');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Share it'));
    await h.text('Read by Maribel');
    // The colleague teaches a course of their own.
    const promoted = await rosemary.query(
      "update enrolment set role = 'instructor' where course_id = $1 and person_id = (select id from person where email = 'maribel@tallowmere.example')",
      [escapements.split('/').at(-1)],
    );
    expect(promoted.rowCount).toBe(1);
    const second = await rosemary.second();
    const c = hands(second);
    await c.signInDemo('Maribel Quennell');
    await c.go(`${escapements}/bank`);
    await c.click(c.button(TITLE));
    await c.text('shares it with you');
    await c.text('3 questions');
    expect(await c.isAccessible()).toEqual([]);
    await c.choose(c.css('.from .choice-field'), 1);
    await c.click(c.button('Make a copy in this course'));
    await c.text(`“${TITLE}” is in the Plan as a draft.`);
    expect(await idIn(escapements, TITLE)).toBeDefined();
    expect(await c.consoleErrors()).toEqual([]);
  });

  it('is begun with its code alone, and says which line was reached', async () => {
    const student = await rosemary.second();
    const s = hands(student);
    await s.signInDemo('Ondine Garrick');
    await s.go(`${foundations}/study/${quizId}`);
    await s.fill(s.field('Code, shown in the room'), 'whistle');
    await s.click(s.button('Begin'));
    await s.text('“whistle” is not the code');
    expect(await s.isAccessible()).toEqual([]);
    await s.fill(s.field('Code, shown in the room'), 'bell');
    await s.click(s.button('Begin'));
    await s.css('.taking .choice');
    // Each has the answers in an order of their own.
    await s.click(await s.text('the pallet stone'));
    await s.text('Saved ');
    await s.press(Key.ARROW_RIGHT);
    await s.text('Question 2 of 3');
    await s.press('1');
    await s.click(s.css('.beads li:nth-child(3) button'));
    await s.type(s.field('Question 3, your answer'), 'pin');
    await s.eventually(
      async () => (await rosemary.query("select 1 from quiz_answer where answer ->> 'text' = 'pin'")).rowCount === 1,
      'the last answer is kept',
    );
    // Meanwhile its teacher changes the time: whom it would reach is said first, and by default they keep theirs.
    await h.go(`${foundations}/quizzes/${quizId}`);
    await h.click(h.button('Settings'));
    await h.fill(h.field('Time limit, minutes'), `20${Key.TAB}`);
    await h.text('1 student is taking “In the room” now');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Leave it'));
    await h.text('Nothing was changed.');
    await h.fill(h.field('Time limit, minutes'), `25${Key.TAB}`);
    await h.text('Ondine Garrick.');
    await h.click(h.button('Only attempts that begin from now on'));
    await h.eventually(
      async () =>
        (await rosemary.query('select 1 from quiz z join quiz_attempt t on t.item_id = z.item_id where z.item_id = $1 and z.limit_minutes = 25 and t.limit_minutes is null', [quizId])) // prettier-ignore
        .rowCount === 1,
      'the quiz has the new time, the attempt that is running has the old one',
    );
    await s.click(s.button('Hand in'));
    await s.click(s.css('.ask .go'));
    await s.click(s.button('your paper'));
    await s.text('passed (2 points or more)');
    expect(await s.isAccessible()).toEqual([]);
    expect(await s.consoleErrors()).toEqual([]);
  });
});
