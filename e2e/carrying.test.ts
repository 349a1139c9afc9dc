import { jest } from '@jest/globals';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** Last term's course carried into a new one, and the programme made from what came of it. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let springId = '';
let targetId = '';
interface Plan {
  readonly units: readonly {
    readonly title: string;
    readonly items: readonly { readonly id: string; readonly title: string; readonly dueAt: string | null; readonly isDraft: boolean }[];
  }[];
}
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('carrying', true);
  h = hands(rosemary);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; run: string }[] }>('GET', '/me');
  springId = me.courses.find((c) => c.run === 'spring')?.id ?? '';
  const { terms } = await h.api<{ terms: { id: string; title: string }[] }>('GET', '/course-start');
  const made = await h.api<{ id: string }>('POST', '/courses', {
    code: 'HOR-110',
    run: 'next',
    title: 'Mechanical Watchmaking, once more',
    termId: terms.find((t) => t.title === 'Autumn')?.id,
    timeZone: 'Europe/Lisbon',
    sections: ['Bench'],
    outline: 'empty',
  });
  targetId = made.id;
});
afterAll(() => rosemary?.close());
const plan = (id: string): Promise<Plan> => h.api<Plan>('GET', `/courses/${id}/plan`);
const items = async (id: string) => (await plan(id)).units.flatMap((u) => u.items);

describe('last term carried forward', () => {
  it('is shown before it happens, date by date, and follows the timetable', async () => {
    await h.go(`/courses/${targetId}/plan`);
    await h.click(h.button('Copy from another course'));
    await h.set(h.field('From'), springId);
    await h.text('Copy 7 items', 'button');
    await h.text('Fri 2 Oct 2026 18:00');
    expect(await h.isAccessible()).toEqual([]);
    await h.set(h.field('Tue become'), '3');
    await h.text('Wed 25 Nov 2026 18:00');
    await h.set(h.field('Dates'), 'without');
    await h.text('left off');
    await h.set(h.field('Dates'), 'with');
    await h.text('Wed 25 Nov 2026 18:00');
    expect(await items(targetId)).toEqual([]);
  });

  it('comes over as drafts beside what is there, with a report, and can be taken back', async () => {
    await h.click(h.field('The escapement'));
    await h.text('Copy 3 items', 'button');
    await h.click(h.button('Copy 3 items'));
    await h.text('3 items copied');
    expect((await items(targetId)).map((i) => [i.title, i.isDraft])).toEqual([
      ['The bench and its light', true],
      ['Dress a screwdriver blade', true],
      ['Strip-down log', true],
    ]);
    expect(await items(springId)).toHaveLength(7);
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await items(targetId)).length === 0, 'not taken back');
    // Its units go after its items.
    await h.eventually(async () => (await plan(targetId)).units.length === 0, 'its units are not taken back');
  });

  it('done again, offers skip, replace or add for what came before', async () => {
    await h.click(h.button('Copy 3 items'));
    await h.text('3 items copied');
    await h.text('came before');
    await h.text('Copy 0 items', 'button');
    await h.set(h.field('Strip-down log came before'), 'add');
    await h.click(h.button('Copy 1 item'));
    await h.text('1 item copied, 2 skipped since they came before');
    expect((await items(targetId)).filter((i) => i.title === 'Strip-down log')).toHaveLength(2);
    expect(await h.isAccessible()).toEqual([]);
  });
});

describe('the grading policy', () => {
  const weights = async (): Promise<string[]> =>
    (await h.api<{ categories: { title: string; weightPercent: number }[] }>('GET', `/courses/${targetId}/policy`)).categories.map(
      (c) => `${c.title} ${c.weightPercent / 1000}`,
    );
  it('comes over when it is chosen, read beside the one that is here, and Undo puts that one back', async () => {
    const before = await weights();
    await h.click(h.field('The grading policy'));
    await h.text('as it would be', 'p');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('and the policy'));
    await h.text('The policy is taken over');
    expect(await weights()).not.toEqual(before);
    await h.click(h.button('Undo'));
    await h.eventually(async () => JSON.stringify(await weights()) === JSON.stringify(before), 'the policy was not put back');
  });
});

describe('the course programme', () => {
  it('is made from the Plan, leaves drafts out, and keeps one’s own words over a reload', async () => {
    await h.go(`/courses/${targetId}/plan`);
    await h.click(h.button('Programme'));
    await h.text('4 drafts are left out');
    await h.text('Assignments count 60 %, by points.');
    await h.click(h.button('Write your own words'));
    await h.type(h.field('Your own words'), 'Bring a loupe and patience.');
    await h.text('Saved', 'p');
    await rosemary.driver.navigate().refresh();
    await h.text('Bring a loupe and patience.');
    expect(await h.isAccessible()).toEqual([]);
    expect(await h.consoleErrors()).toEqual([]);
  });

  it('is read by a student with their own dates', async () => {
    const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
    const courseId = me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? '';
    await h.signInDemo('Ondine Garrick');
    await h.go(`/courses/${courseId}/study`);
    await h.click(h.button('The course programme'));
    await h.text('How the grade is made');
    // Two days later than everybody else's Friday 30 October, by arrangement.
    await h.text('Sun 1 Nov 18:00');
    expect(await h.has('drafts are left out')).toBe(false);
    await h.phone();
    expect(await h.isAccessible()).toEqual([]);
  });
});
