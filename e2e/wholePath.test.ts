import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { By, Key, until } from 'selenium-webdriver';
import { jest } from '@jest/globals';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let courseId = '';
const ids: Record<string, string> = {};
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('demo', true);
  h = hands(rosemary);
});
afterAll(() => rosemary?.close());
const PDF = `%PDF-1.4
1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj 2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj
3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 300 300]/Resources<</Font<</F1 4 0 R>>>>/Contents 5 0 R>>endobj
4 0 obj<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>endobj
5 0 obj<</Length 58>>stream
BT /F1 14 Tf 30 200 Td (The pallet stones are clean) Tj ET
endstream endobj
trailer<</Root 1 0 R>>
%%EOF`;

describe('the whole path, once', () => {
  it('signs in with a wrong password in plain words, then with one click', async () => {
    await h.go('/sign-in');
    await h.type(h.field('Email'), 'ines@tallowmere.example');
    await h.type(h.field('Password'), 'wrong', Key.ENTER);
    await h.text('does not match');
    await h.click(h.button('Ines Okafor-Lind'));
    await h.text('What waits for you');
    const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
    courseId = me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? '';
  });

  it('shows on the Desk what waits, and puts a slip off', async () => {
    await h.text('Wednesday, week 9');
    await h.text('Sun 22 Nov 23:59');
    const before = (await rosemary.driver.findElements(By.css('.slip'))).length;
    await h.click(h.css('.slip:last-of-type .later'));
    await h.click(h.button('Tomorrow'));
    await h.eventually(async () => (await rosemary.driver.findElements(By.css('.slip'))).length === before - 1, 'the slip stayed');
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await rosemary.driver.findElements(By.css('.slip'))).length === before, 'the slip did not come back');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('builds in the Plan: adds, renames, moves by keyboard, deletes with undo', async () => {
    await h.go(`/courses/${courseId}/plan`);
    await h.text('The escapement');
    await h.click(h.button('Add unit'));
    await h.type(h.field('Title of the new unit'), 'A new unit', Key.ENTER);
    await h.click(
      h
        .eventually(async () => (await rosemary.driver.findElements(By.css('.unit'))).length === 8, 'no new unit')
        .then(() => h.css('.unit:nth-of-type(9) .add, .unit:last-of-type .add')),
    );
    await h.set(h.field('Kind'), 'assignment');
    await h.type(h.field('Title of the new item'), 'Hand in a note', Key.ENTER);
    await h.css('aside[aria-label="Inspector"] h3');
    const row = await h
      .eventually(async () => (await rosemary.driver.findElements(By.css('.row.on'))).length === 1, 'not chosen')
      .then(() => h.css('.row.on'));
    ids.task = ((await row.getAttribute('id')) ?? '').replace('row-', '');
    await row.sendKeys(Key.F2);
    await h.fill(h.field('Title'), 'Note on a lever');
    await h.press(Key.ENTER);
    await h.text('Note on a lever', 'a');
    await h.click(h.css(`#row-${ids.task}`));
    await h.type(h.css(`#row-${ids.task}`), Key.chord(Key.ALT, Key.ARROW_UP));
    await h.text('moved.');
    await h.eventually(async () => {
      const plan = await h.api<{ units: { title: string; items: { id: string }[] }[] }>('GET', `/courses/${courseId}/plan`);
      return plan.units[6]?.items.some((i) => i.id === ids.task) === true;
    }, 'not moved');
    await h.click(h.button('Undo'));
    await h.eventually(async () => {
      const plan = await h.api<{ units: { items: { id: string }[] }[] }>('GET', `/courses/${courseId}/plan`);
      return plan.units[7]?.items.some((i) => i.id === ids.task) === true;
    }, 'not moved back');
    await h.type(h.css(`#row-${ids.task}`), Key.DELETE);
    await h.text('is deleted');
    await h.click(h.button('Undo'));
    await h.css(`#row-${ids.task}`);
  });

  it('sets dates, points and category in the inspector, and refuses what contradicts', async () => {
    await h.click(h.css(`#row-${ids.task}`));
    await h.set(h.field('Due, Europe/Lisbon'), '2026-11-20T18:00');
    await h.text('Fri 20 Nov 18:00');
    await h.set(h.field('Opens'), '2026-12-20T18:00');
    await h.text('It is due before it opens');
    await h.set(h.field('Opens'), '');
    await h.set(h.field('Points'), '-3');
    await h.text('is not a number of points');
    await h.set(h.field('Points'), '20');
    await h.set(
      h.field('Category'),
      (await h.api<{ categories: { id: string; title: string }[] }>('GET', `/courses/${courseId}/plan`)).categories.find(
        (c) => c.title === 'Bench work',
      )?.id ?? '',
    );
    await h.eventually(async () => {
      const { item } = await h.api<{ item: { possible: number; categoryId: string | null } }>(
        'GET',
        `/courses/${courseId}/items/${ids.task}`,
      );
      return item.possible === 20_000 && item.categoryId !== null;
    }, 'not saved');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('writes the instructions, takes text and files, makes a rubric, opens it', async () => {
    await h.go(`/courses/${courseId}/items/${ids.task}`);
    await h.type(h.field('Instructions'), 'Say what you see.');
    await h.text('Saved', 'span');
    await h.click(h.field('files'));
    await h.text('no notes in its margin');
    await h.click(h.button('Make one'));
    await h.type(h.field('Criterion 1'), 'Observation');
    for (const [n, points] of ['0', '5', '10', '20'].entries()) await h.fill(h.field(`Points of level ${n + 1}`), points);
    await h.click(h.button('Save the rubric'));
    await h.text('1 criteria, 20 points');
    expect(await h.isAccessible()).toEqual([]);
    await h.go(`/courses/${courseId}/plan?item=${ids.task}`);
    await h.set(h.field('State:'), 'open');
    // One item more moves what everybody can still reach.
    await h.click(h.button('Apply'));
    await h.text('State: open');
    await h.signOut();
  });

  it('as a student: sees it due, writes, loses nothing in a reload, attaches a PDF, hands in, gets a receipt', async () => {
    const person = await rosemary.query(
      "select p.id, p.given_name, p.family_name, e.id as enrolment from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and e.role = 'student' and not e.is_sample and e.withdrawn_at is null",
      [courseId],
    );
    const offered = (await h.api<{ demoPeople: { id: string; givenName: string; familyName: string }[] }>('GET', '/me')).demoPeople;
    const mine = person.rows.find((r) => offered.some((o) => o.id === r.id));
    Object.assign(ids, { student: mine.enrolment, name: `${mine.given_name} ${mine.family_name}` });
    await h.signInDemo(ids.name!);
    await h.text('Due this week');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Note on a lever'));
    await h.type(h.field('Your answer'), 'The entry stone shows a bright line of wear.');
    await h.text('Saved', 'span');
    await h.type(h.field('Your answer'), ' And more.');
    await rosemary.driver.navigate().refresh();
    await h.text('bright line of wear. And more.');
    const folder = rosemary.makeFolder();
    writeFileSync(join(folder, 'lever.pdf'), PDF);
    writeFileSync(join(folder, 'liar.pdf'), 'not a PDF at all');
    await (await h.css('.pick input')).sendKeys(join(folder, 'liar.pdf'));
    await h.text('is really plain text and code');
    await (await h.css('.pick input')).sendKeys(join(folder, 'lever.pdf'));
    await h.button('lever.pdf');
    await h.text('Saved', 'span');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Hand in'));
    await h.text('Handed in.');
    await h.text('content hash');
    await h.go(`/courses/${courseId}/study/${ids.task}`);
    await h.text('What you handed in');
    await h.signOut();
  });

  it('marks: notes on the text and on the PDF, the rubric by keys, feedback; nothing shows before release', async () => {
    await h.signInDemo('Ines Okafor-Lind');
    await h.go(`/courses/${courseId}/marking/${ids.task}/${ids.student}`);
    await h.text('bright line of wear');
    await h.selectWords('.paper-work .ProseMirror', 'bright line of wear');
    await h.button('Note it');
    await h.press('n');
    await h.type(h.field('Note'), 'How long is it?', Key.ENTER);
    await h.css('.note-number');
    await h.css('.text-layer span');
    await h.selectWords('.text-layer', 'pallet stones');
    await h.button('Note it');
    await h.press('n');
    await h.type(h.field('Note'), 'Which one?', Key.ENTER);
    await h.css('.ink-box');
    await h.click(h.css('.hd h1'));
    await h.press('3');
    await h.text('draft, not finished');
    await h.press('f');
    await h.type(h.field('Overall feedback'), 'Measure what you see.');
    await h.eventually(async () => {
      const work = await h.api<{ mark: { feedback: unknown; total: number } }>(
        'GET',
        `/courses/${courseId}/marking/${ids.task}/${ids.student}`,
      );
      return work.mark.feedback !== null && work.mark.total === 10_000;
    }, 'not saved');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('loses nothing of a mark when the server is killed and comes back', async () => {
    rosemary.kill();
    await h.click(h.css('.lv button:nth-child(4)'));
    await h.text('Not saved yet');
    await rosemary.restart();
    await h.eventually(async () => {
      const work = await h.api<{ mark?: { total: number } }>('GET', `/courses/${courseId}/marking/${ids.task}/${ids.student}`);
      return work.mark?.total === 20_000;
    }, 'not sent again');
  });

  it('finishes one, which goes out at once, and takes it back and releases it again', async () => {
    await h.click(h.button('close'));
    await h.click(h.button('Finish, next'));
    await h.eventually(
      async () =>
        (await h.api<{ mark: { state: string } }>('GET', `/courses/${courseId}/marking/${ids.task}/${ids.student}`)).mark.state ===
        'released',
      'not finished',
    );
    await h.go(`/courses/${courseId}/marking/${ids.task}/${ids.student}`);
    const inStrip = (words: string) =>
      rosemary.driver.wait(until.elementLocated(By.xpath(`//section[@aria-label="Mark"]//button[normalize-space(.)="${words}"]`)), 10_000);
    await h.click(inStrip('Take back'));
    await h.text('Taken back');
    await h.click(inStrip('Release'));
    await h.text('One mark is released');
  });

  it('types a score into a cell, opens its working and history, and undoes it', async () => {
    await h.go(`/courses/${courseId}/gradebook`);
    const row = '[role=row][aria-rowindex="2"]';
    const columns = await h.css(`${row} [role=gridcell]`).then(() => rosemary.driver.findElements(By.css(`${row} [role=gridcell]`)));
    await h.click(columns[0]!);
    await h.css('.lines');
    const before = await columns[0]!.getText();
    await h.press('1', '7', Key.ENTER);
    await h.text(': 17.');
    await h.press(Key.ARROW_UP);
    await h.text('→ 17');
    await h.click(h.css('.history .act'));
    await h.text('undone, back to');
    await h.eventually(async () => (await columns[0]!.getText()) === before, 'not undone');
    await h.click((await rosemary.driver.findElements(By.css(`${row} .soFar`)))[0]!);
    await h.text('read to one decimal, half up');
    await h.press(Key.ARROW_LEFT, Key.ARROW_RIGHT);
    expect(await h.isAccessible()).toEqual([]);
  });

  it('changes a weight as a sentence, sees the ripple, applies and undoes', async () => {
    await h.go(`/courses/${courseId}/policy`);
    await h.set(h.field('Weight of Papers'), '45');
    await h.text('Not yet applied');
    await h.text('which is not 100 %');
    await h.css('.slope');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Apply to'));
    await h.text('Applied.');
    await h.click(h.button('Undo'));
    await h.eventually(
      async () => (await h.api<{ weightsSum: number }>('GET', `/courses/${courseId}/policy`)).weightsSum === 100_000,
      'not undone',
    );
  });

  it('shows the matrix of progress, drills down to items, and sees the course as that student', async () => {
    await h.go(`/courses/${courseId}/progress`);
    await h.click(h.css('.far tbody th button'));
    await h.css('.tick');
    await h.go(`/courses/${courseId}/progress?person=${ids.student}`);
    await h.text('required items that are open or past');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('See as this student'));
    await h.text('Nothing can be changed here');
    await h.text('Returned');
    await h.click(h.button('Back to teaching'));
    await h.text('Outline');
  });

  it('lists the roster and finds by a few letters', async () => {
    await h.go(`/courses/${courseId}/roster`);
    await h.text('Students');
    expect(await h.isAccessible()).toEqual([]);
    await h.press(Key.chord(Key.CONTROL, 'k'));
    await h.type(h.field('Search or run a command'), 'Condition rep');
    await h.button('Condition report');
    await h.press(Key.ENTER);
    await h.css('h1.title');
    await h.signOut();
  });

  it('gives the student mark, notes, rubric and feedback, and grades with their working, on a phone', async () => {
    await h.signInDemo(ids.name!);
    await h.phone();
    await h.go(`/courses/${courseId}/study/${ids.task}`);
    await h.text('Returned');
    for (const words of ['How long is it?', 'Which one?', 'Measure what you see.']) await h.text(words);
    await h.css('.got');
    const wide = await rosemary.driver.executeScript<number>('return document.documentElement.scrollWidth');
    expect(wide).toBeLessThanOrEqual(390);
    await h.go(`/courses/${courseId}/grades`);
    await h.click(h.css('.total .big'));
    await h.text('Total so far');
    await h.text('Counted from released marks only');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('keeps what is typed when the session ends, and saves it after signing in again', async () => {
    await h.go(`/courses/${courseId}/study/${ids.task}`);
    await h.click(h.button('Hand in again'));
    await h.text('Your work');
    await rosemary.query("update session set expire = now() - interval '1 second'");
    await h.type(h.field('Your answer'), 'typed after the session ended ');
    await h.text('Sign in again');
    await h.click(h.button('in the demo'));
    await h.gone('.v-dialog');
    await h.text('Saved', 'span');
    const draft = await rosemary.query('select draft::text from submission where item_id = $1 and enrolment_id = $2', [
      ids.task,
      ids.student,
    ]);
    expect(draft.rows[0].draft).toContain('typed after the session ended');
    expect(await h.consoleErrors()).toEqual([]);
  });
});
