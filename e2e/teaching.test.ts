import { By } from 'selenium-webdriver';
import { jest } from '@jest/globals';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** What changes a running course: by hand, and with its ripple first. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let courseId = '';
interface Plan {
  readonly units: readonly {
    readonly id: string;
    readonly title: string;
    readonly items: readonly { readonly id: string; readonly title: string }[];
  }[];
}
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('teaching', true);
  h = hands(rosemary);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  courseId = me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? '';
});
afterAll(() => rosemary?.close());
const plan = (): Promise<Plan> => h.api<Plan>('GET', `/courses/${courseId}/plan`);
const titles = async (unit: number): Promise<string[]> => (await plan()).units[unit]!.items.map((i) => i.title);
const item = async (title: string): Promise<string> =>
  (await plan()).units.flatMap((u) => u.items).find((i) => i.title === title)?.id ?? '';
const totals = async (): Promise<string> =>
  JSON.stringify((await h.api<{ rows: { totals: unknown }[] }>('GET', `/courses/${courseId}/gradebook`)).rows.map((r) => r.totals));

describe('the Plan by mouse', () => {
  it('moves an item within its unit by its handle, and takes it back', async () => {
    await h.go(`/courses/${courseId}/plan`);
    const before = await titles(1);
    const [first, , third] = (await plan()).units[1]!.items;
    await h.drag(h.css(`#row-${first!.id} .grip`), h.css(`#row-${third!.id}`));
    await h.text('moved.');
    await h.eventually(async () => (await titles(1)).indexOf(first!.title) === 2, 'not moved');
    await h.click(h.button('Undo'));
    await h.eventually(async () => JSON.stringify(await titles(1)) === JSON.stringify(before), 'not moved back');
  });

  it('moves an item into another unit', async () => {
    const units = (await plan()).units;
    const held = units[2]!.items[0]!;
    await h.drag(h.css(`#row-${held.id} .grip`), h.css(`#row-${units[1]!.items.at(-1)!.id}`));
    await h.eventually(async () => (await titles(1)).includes(held.title) && !(await titles(2)).includes(held.title), 'not moved over');
    await h.go(`/courses/${courseId}/plan`);
    await h.css(`#row-${held.id}`);
    expect((await titles(1)).includes(held.title)).toBe(true);
  });
});

describe('a change that moves grades', () => {
  it('shows its ripple, and left, changes nothing', async () => {
    const before = await totals();
    await h.go(`/courses/${courseId}/plan?item=${await item('Mid-term paper')}`);
    await h.set(h.field('Points'), '120');
    const dialog = await h.css('.ripple');
    await h.eventually(async () => /rise|fall/.test(await dialog.getText()), 'no ripple');
    expect(await dialog.getText()).toContain('“Mid-term paper”');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Leave it'));
    await h.text('Left as it was');
    expect(await (await h.field('Points')).getAttribute('value')).toBe('100');
    expect(await totals()).toBe(before);
  });

  it('applies it, and takes it back with Undo', async () => {
    const before = await totals();
    await h.set(h.field('Points'), '120');
    await h.css('.ripple');
    await h.click(h.button('Apply'));
    await h.text('is changed.');
    await h.eventually(async () => (await totals()) !== before, 'nothing moved');
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await totals()) === before, 'not taken back');
  });

  it('says whose reach moves where no total so far does', async () => {
    await h.go(`/courses/${courseId}/plan?item=${await item('Timing in six positions')}`);
    await h.set(h.field('Points'), '90');
    const dialog = await h.css('.ripple');
    await h.eventually(async () => /No total so far moves[^]*reach of \d+/.test(await dialog.getText()), 'no reach');
    await h.click(h.button('Apply'));
    await h.eventually(async () => {
      const { item: found } = await h.api<{ item: { possible: number } }>(
        'GET',
        `/courses/${courseId}/items/${await item('Timing in six positions')}`,
      );
      return found.possible === 90_000;
    }, 'not saved');
  });

  it('gives one student another date', async () => {
    await h.go(`/courses/${courseId}/plan?item=${await item('Timing in six positions')}`);
    await h.choose(h.field('Another due date for a section, a group or a student'), 'Abiola, Tunde');
    await h.set(h.field('Due for Abiola, Tunde'), 'Fri 11 Dec 18:00');
    await h.eventually(async () => {
      const { item: found } = await h.api<{ item: { variants: { dueAt: string }[] } }>(
        'GET',
        `/courses/${courseId}/items/${await item('Timing in six positions')}`,
      );
      return found.variants.some((v) => v.dueAt.startsWith('2026-12-11T18:00'));
    }, 'not kept');
  });

  it('says in words what is wrong with a date, and keeps what was typed', async () => {
    await h.set(h.field('Due, Europe/Lisbon'), 'Mon 4 Dec');
    await h.text('4 December 2026 is a Friday. Mend the day or the weekday.');
    expect(await (await h.field('Due, Europe/Lisbon')).getAttribute('value')).toBe('Mon 4 Dec');
    await h.click(h.field('Choose Due, Europe/Lisbon in a calendar'));
    await h.css('.v-date-picker');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(rosemary.driver.findElement(By.xpath('//*[@role="gridcell"]//button[normalize-space()="10"]')));
    await h.text('Thu 10 Dec 18:00');
  });

  it('arranges more time for a student, with its ripple, and takes it away', async () => {
    await h.go(`/courses/${courseId}/roster`);
    await h.click(h.field('Arrange something for Emeka Czerny'));
    await h.click(h.button('Arrange'));
    await h.set(h.field('time ×'), '9');
    await h.click(h.css('.form .go'));
    await h.text('is not a factor from 1 to 4');
    await h.set(h.field('time ×'), '1.25');
    await h.set(h.field('more days'), '3');
    await h.set(h.field('reason, for staff'), 'agreed with the office');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.css('.form .go'));
    await h.css('.ripple');
    await h.text('Arrangement for Emeka Czerny');
    await h.click(h.button('Apply'));
    await h.text('3 more days, time × 1.25, agreed with the office');
    await h.click(h.button('Undo'));
    await h.eventually(async () => !(await h.has('agreed with the office')), 'not taken back');
  });
});

describe('cut-points by mouse', () => {
  it('drags a letter’s line over the class, shows who crosses, and leaves it', async () => {
    await h.go(`/courses/${courseId}/policy`);
    const line = await h.css('g.cut[data-at="1"]');
    await h.drag(line, line, { x: 40, y: 0 });
    await h.eventually(async () => /cross/.test(await (await h.css('.ripple-side')).getText()), 'no ripple');
    expect(await (await h.css('.ripple-side')).getText()).not.toMatch(/none cross/i);
    await h.click(h.button('Leave it'));
    await h.text('Change a word in the sentences');
    expect(await h.consoleErrors()).toEqual([]);
  });
});
