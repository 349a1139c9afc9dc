import { jest } from '@jest/globals';
import { By } from 'selenium-webdriver';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** What was deleted comes back, and a course comes to its end. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let base = '';
interface Plan {
  readonly units: readonly { readonly id: string; readonly title: string; readonly items: readonly { readonly title: string }[] }[];
}
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('history', true);
  h = hands(rosemary);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  base = `/courses/${me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
});
afterAll(() => rosemary?.close());
const plan = (): Promise<Plan> => h.api<Plan>('GET', `${base}/plan`);
const totals = async (): Promise<string> =>
  JSON.stringify((await h.api<{ rows: { totals: unknown }[] }>('GET', `${base}/gradebook`)).rows.map((r) => r.totals));

describe('the history of a course', () => {
  it('lists a deleted unit with all it held, and puts it back with every total as it was', async () => {
    const before = { units: (await plan()).units, totals: await totals() };
    const unit = before.units.find((u) => u.items.length > 4)!;
    await h.api('DELETE', `${base}/units/${unit.id}`);
    expect(await totals()).not.toBe(before.totals);
    await h.go(`${base}/history`);
    await h.text(unit.items[0]!.title);
    await h.text('Ines Okafor-Lind');
    await h.text(`unit deleted: “${unit.title}”`);
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.field(`Put back ${unit.title}`));
    await h.click(h.button('Apply'));
    await h.text(`“${unit.title}” is put back.`);
    await h.text('What is deleted in this course stands here for 30 days');
    expect((await plan()).units).toEqual(expect.arrayContaining([expect.objectContaining({ id: unit.id, title: unit.title })]));
    expect(await totals()).toBe(before.totals);
  });
});

describe('the end of a course', () => {
  it('is closed to its students by a press, and open again by Undo', async () => {
    await h.go(`${base}/settings`);
    await h.click(h.button('Close to students'));
    await h.text('The course is closed to its students.');
    await h.text('Closed to students: none of them sees it.');
    await h.click(h.button('Undo'));
    await h.text('Open: its students reach it.');
  });

  it('is archived: read, changed by nobody, and said so where it stands', async () => {
    await h.click(h.button('Archive'));
    await h.text('archived: nothing in it is changed');
    await h.go('/');
    await h.gone('.skeleton');
    expect(await h.has('HOR-110 · 3 sections')).toBe(false);
    const refused = await h.api<{ detail: string }>('POST', `${base}/units`, { title: 'Too late', isStanding: false });
    expect(refused.detail).toContain('This course is archived');
    await h.go(`${base}/gradebook`);
    await h.css('[role=gridcell]');
    await h.go(`${base}/settings`);
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Bring back from the archive'));
    await h.text('Running: it stands on the Desk and can be changed.');
  });

  it('is deleted by the administrator and put back, closed', async () => {
    await h.signInDemo('Aurelio Brandt');
    await h.go('/school');
    await h.click(h.field('What can be done with Mechanical Watchmaking: Foundations'));
    await h.click(h.button('Delete, with all in it'));
    await h.text('is deleted: nobody reaches it.');
    expect((await h.api<{ status: number }>('GET', base)).status).toBe(404);
    await h.click(h.button('Undo'));
    await h.text('is back, closed to students.');
    const many = await rosemary.driver.findElements(By.css('[aria-label^="Put back"]'));
    expect(many).toHaveLength(0);
  });

  it('has no errors in the browser but the refusals that were asked for', async () => {
    expect((await h.consoleErrors()).filter((error) => !/40[49]/.test(error))).toEqual([]);
  });
});
