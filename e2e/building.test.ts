import { By, Key, until } from 'selenium-webdriver';
import { jest } from '@jest/globals';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** A course from nothing to open, as a teacher would build it of an evening. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let courseId = '';
interface Item {
  readonly id: string;
  readonly title: string;
  readonly dueAt: string | null;
  readonly isDraft: boolean;
}
interface Plan {
  readonly units: readonly { readonly id: string; readonly title: string; readonly items: readonly Item[] }[];
}
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('building', true);
  h = hands(rosemary);
  await h.signInDemo('Ines Okafor-Lind');
});
afterAll(() => rosemary?.close());
const plan = (): Promise<Plan> => h.api<Plan>('GET', `/courses/${courseId}/plan`);
const items = async (): Promise<readonly Item[]> => (await plan()).units.flatMap((u) => u.items);
const rows = async (): Promise<number> => (await rosemary.driver.findElements(By.css('.slot'))).length;
const choose = async (id: string): Promise<void> => {
  await rosemary.driver.executeScript(`document.querySelector('#row-${id} .pick input').click()`);
};

describe('a course from nothing', () => {
  it('is laid out before it is made, and what was typed survives a reload', async () => {
    await h.click(h.button('New course'));
    await h.css('.preview .unit');
    await h.text('14 units, 30 items');
    await h.type(h.field('Title'), 'Repeating Work');
    await h.type(h.field('Code'), 'HOR-110');
    await h.type(h.field('Run'), 'autumn');
    await h.text('HOR-110 has a run autumn already. Choose another run.');
    await rosemary.driver.navigate().refresh();
    await h.css('.preview .unit');
    expect(await (await h.field('Title')).getAttribute('value')).toBe('Repeating Work');
    await h.fill(h.field('Code'), 'HOR-310');
    await h.click(rosemary.driver.wait(until.elementLocated(By.xpath('//label[contains(., "By topics")]//input')), 60_000));
    await h.text('6 units, 24 items');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Make the course'));
    await h.css('.row');
    courseId = /courses\/([0-9a-f-]+)/.exec(await rosemary.driver.getCurrentUrl())?.[1] ?? '';
    expect((await items()).every((i) => i.isDraft)).toBe(true);
  });

  it('has several items chosen by Ctrl, Shift and key, and says how many of how many', async () => {
    await h.eventually(async () => (await rows()) === 24, 'not all lines');
    const all = await items();
    await h.css(`#row-${all[0]!.id} .pick input`);
    const [first, fourth] = [await h.css(`#row-${all[0]!.id} .date`), await h.css(`#row-${all[3]!.id} .date`)];
    await rosemary.driver.actions().keyDown(Key.CONTROL).click(first).keyUp(Key.CONTROL).perform();
    await h.text('1 of 24 chosen');
    await rosemary.driver.actions().keyDown(Key.SHIFT).click(fourth).keyUp(Key.SHIFT).perform();
    await h.text('4 of 24 chosen');
    await h.type(h.css(`#row-${all[5]!.id}`), 'x');
    await h.text('5 of 24 chosen');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('choose none'));
    await h.eventually(async () => !(await h.has('of 24 chosen')), 'still chosen');
  });

  it('spreads chosen items over the teaching days, seen before it is done, and takes it back', async () => {
    const work = (await items()).filter((i) => i.title === 'Try it');
    for (const i of work.slice(0, 3)) await choose(i.id);
    await h.text('3 of 24 chosen');
    await h.click(h.button('Spread them'));
    await h.set(h.field('From'), '2026-11-23');
    await h.set(h.field('To'), '2026-12-01');
    await h.set(h.field('Due at'), '18:00');
    await h.text('Tue 24 Nov 2026 18:00', 'span');
    await h.click(h.button('Set 3 dates'));
    await h.text('3 items are spread over the teaching days.');
    const dates = async (): Promise<(string | null)[]> =>
      (await items())
        .filter((i) => i.title === 'Try it')
        .map((i) => i.dueAt?.slice(0, 16) ?? null)
        .slice(0, 3);
    await h.eventually(async () => (await dates())[0] === '2026-11-24T18:00', 'not spread');
    expect(await dates()).toEqual(['2026-11-24T18:00', '2026-11-26T18:00', '2026-12-01T18:00']);
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await dates())[0] === work[0]!.dueAt?.slice(0, 16), 'not taken back');
  });

  it('moves dates by days, refuses what is no number, and opens drafts together', async () => {
    const before = (await items()).filter((i) => i.title === 'Try it')[0]!;
    await h.set(h.field('Move all their dates by days'), 'soon');
    await h.click(h.button('Move'));
    await h.text('“soon” is not a number of days');
    await h.set(h.field('Move all their dates by days'), '7');
    await h.click(h.button('Move'));
    await h.text('moved by 7 days');
    await h.eventually(async () => {
      const now = (await items()).find((i) => i.id === before.id)!;
      return Date.parse(now.dueAt ?? '') - Date.parse(before.dueAt ?? '') >= 6.9 * 86_400_000;
    }, 'not moved');
    await h.click(h.button('Open them'));
    await h.eventually(async () => (await items()).filter((i) => !i.isDraft).length === 3, 'not open');
  });

  it('duplicates and deletes them, each with undo', async () => {
    await h.click(h.button('Duplicate'));
    await h.eventually(async () => (await rows()) === 27, 'no copies');
    await h.text('Try it (copy)', 'a');
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await rows()) === 24, 'copies stayed');
    const [one, two] = await items();
    await choose(one!.id);
    await choose(two!.id);
    await h.click(h.button('Delete'));
    await h.text('2 items are deleted.');
    await h.eventually(async () => (await rows()) === 22, 'not deleted');
    // Its sentence is gone, and the way back is still there.
    await h.click(h.button('Close'));
    await h.gone('.v-snackbar--active');
    await rosemary.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
    await h.eventually(async () => (await rows()) === 24, 'not brought back');
    await rosemary.driver.actions().keyDown(Key.CONTROL).keyDown(Key.SHIFT).sendKeys('z').keyUp(Key.SHIFT).keyUp(Key.CONTROL).perform();
    await h.eventually(async () => (await rows()) === 22, 'not deleted again');
    await rosemary.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
    await h.eventually(async () => (await rows()) === 24, 'not brought back once more');
  });

  it('drags an item to another week, by mouse and by key, and the date follows', async () => {
    await h.click(h.button('Weeks'));
    await h.css('.weeks');
    expect(await h.isAccessible()).toEqual([]);
    const held = (await items()).find((i) => i.title === 'Show it')!;
    const cell = await h.css(`[data-id="${held.id}"]`);
    const week = Number(await rosemary.driver.executeScript<string>('return arguments[0].closest(".cell").dataset.week', cell));
    const next = await rosemary.driver.executeScript<Parameters<typeof h.drag>[1]>(
      'return arguments[0].closest("tr").querySelector(`.cell[data-week="${arguments[1]}"]`)',
      cell,
      week + 1,
    );
    await h.drag(cell, next);
    const moved = async (): Promise<number> =>
      (Date.parse((await items()).find((i) => i.id === held.id)!.dueAt ?? '') - Date.parse(held.dueAt ?? '')) / 86_400_000;
    await h.eventually(async () => Math.round(await moved()) === 7, 'not a week later');
    await h.type(h.css(`[data-id="${held.id}"]`), Key.chord(Key.ALT, Key.ARROW_LEFT));
    await h.eventually(async () => Math.round(await moved()) === 0, 'not a week earlier');
    await h.click(h.button('Outline'));
  });

  it('is checked, each finding leads to its field, and then it is opened', async () => {
    await h.click(h.button('Check before opening'));
    await h.text('The page “What this is about” is empty.');
    expect(await h.isAccessible()).toEqual([]);
    const show = (await items()).find((i) => i.title === 'Show it')!;
    await rosemary.query('update grade_column set possible = 0 where item_id = $1', [show.id]);
    await rosemary.driver.navigate().refresh();
    await h.click(h.field('Mend: “Show it” counts toward the grade but is worth 0 points.'));
    const points = await h.field('Points');
    await h.eventually(
      async () => await rosemary.driver.executeScript<boolean>('return document.activeElement === arguments[0]', points),
      'not in the field',
    );
    await h.set(points, '60');
    await h.eventually(async () => (await items()).length === 24, 'still there');
    await h.click(h.button('Check before opening'));
    await h.text('What is left to mend can be mended afterwards as well.');
    await h.eventually(async () => !(await h.has('worth 0 points')), 'still to mend');
    await h.click(h.button('Open the course'));
    await h.text('The course is open.');
    expect(await h.consoleErrors()).toEqual([]);
  });
});
