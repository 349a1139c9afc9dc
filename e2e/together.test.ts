import { Key } from 'selenium-webdriver';
import { jest } from '@jest/globals';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** Two people at the same course at the same time, each in a browser of their own. */
let rosemary: Rosemary;
let ines: ReturnType<typeof hands>;
let other: ReturnType<typeof hands>;
let courseId = '';
let itemId = '';
interface Entry {
  readonly enrolmentId: string;
  readonly familyName: string;
  readonly givenName: string;
  readonly section: string;
  readonly state: string;
  readonly lateText: string | null;
}
let waiting: Entry[] = [];
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('together', true);
  ines = hands(rosemary);
  other = hands(await rosemary.second());
  await ines.signInDemo('Ines Okafor-Lind');
  const me = await ines.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  courseId = me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? '';
  const plan = await ines.api<{ units: { items: { id: string; title: string }[] }[] }>('GET', `/courses/${courseId}/plan`);
  itemId = plan.units.flatMap((u) => u.items).find((i) => i.title === 'Condition report')?.id ?? '';
  const stack = await ines.api<{ entries: Entry[] }>('GET', `/courses/${courseId}/marking/${itemId}`);
  waiting = stack.entries.filter((e) => e.state === 'waits' && e.section !== 'Distance' && e.lateText === null);
});
afterAll(() => rosemary?.close());
const work = (entry: Entry): string => `/courses/${courseId}/marking/${itemId}/${entry.enrolmentId}`;
const put = (who: ReturnType<typeof hands>, entry: Entry, version: number, score: number) =>
  who.api<{ version: number }>('PUT', work(entry) + '/mark', { version, choices: {}, score, scoreReason: 'as agreed', feedback: null });

describe('two people at the same course', () => {
  it('lets a mark that an assistant finishes appear in the open gradebook by itself', async () => {
    await other.signInDemo('Teodor Vasko');
    await ines.go(`/courses/${courseId}/gradebook`);
    const entry = waiting[0]!;
    const { rows } = await ines.api<{ rows: Entry[] }>('GET', `/courses/${courseId}/gradebook`);
    const names = rows.map((r) => `${r.familyName} ${r.givenName}`).sort((a, b) => a.localeCompare(b));
    // Only what is in view stands in the page.
    await ines.css('[role=gridcell]');
    await rosemary.driver.executeScript(
      "const grid = document.querySelector('[role=grid]'); grid.scrollTop = 27 * arguments[0]; grid.scrollLeft = 320",
      names.indexOf(`${entry.familyName} ${entry.givenName}`),
    );
    await ines.text(`${entry.familyName}, ${entry.givenName}`);
    expect(await ines.has('59.75')).toBe(false);
    const { version } = await put(other, entry, 0, 59_750);
    await other.api('POST', `${work(entry)}/finish`, { version, isAboveConfirmed: false });
    await ines.text('59.75');
  });

  it('tells a marker that somebody else has just changed the mark, and shows it when asked', async () => {
    const entry = waiting[1]!;
    await ines.go(work(entry));
    await ines.text(`${entry.givenName} ${entry.familyName}`, 'h1');
    await put(other, entry, 0, 31_250);
    await ines.text('Teodor Vasko has just changed the mark or notes of this work.');
    expect(await ines.isAccessible()).toEqual([]);
    await ines.click(ines.button('Show it'));
    await ines.text('31.25');
  });

  it('does not let one overwrite the other: both versions stand side by side', async () => {
    const entry = waiting[2]!;
    await ines.go(work(entry));
    await ines.text(`${entry.givenName} ${entry.familyName}`, 'h1');
    await ines.gone('.skeleton');
    expect(await put(other, entry, 0, 40_000)).toMatchObject({ version: 1 });
    await ines.text('Teodor Vasko has just changed the mark or notes of this work.');
    await ines.press('1');
    await ines.text('Teodor Vasko saved another mark meanwhile.');
    await ines.text('40', 'mark');
    const { rows } = await rosemary.query(
      'select m.score from mark m join submission s on s.id = m.submission_id where s.item_id = $1 and s.enrolment_id = $2',
      [itemId, entry.enrolmentId],
    );
    expect(rows[0]).toEqual({ score: '40.000' });
  });

  it('shows what one changes in the Plan to the other, and keeps what the other is typing', async () => {
    await ines.go(`/courses/${courseId}/plan?item=${itemId}`);
    await ines.css('aside[aria-label="Inspector"] h3');
    await ines.fill(ines.field('Minutes for a student'), '19');
    await rosemary.query('update item set version = version where id = $1', [itemId]);
    const second = await rosemary.second();
    const ines2 = hands(second);
    await ines2.signInDemo('Ines Okafor-Lind');
    const plan = await ines2.api<{ units: { id: string; title: string; version: number }[] }>('GET', `/courses/${courseId}/plan`);
    const unit = plan.units[0]!;
    await ines2.api('PATCH', `/courses/${courseId}/units/${unit.id}`, { title: 'Tools, bench and light', version: unit.version });
    await ines.text('Tools, bench and light');
    expect(await (await ines.field('Minutes for a student')).getAttribute('value')).toBe('19');
    await ines.type(ines.field('Minutes for a student'), '5', Key.TAB);
    await ines.eventually(
      async () =>
        (await ines.api<{ item: { estimatedMinutes: number } }>('GET', `/courses/${courseId}/items/${itemId}`)).item.estimatedMinutes ===
        195,
      'not saved',
    );
  });

  it('shows a student what came back as soon as it is released', async () => {
    await ines.go(`/courses/${courseId}/marking`);
    const stack = await ines.api<{ entries: Entry[] }>('GET', `/courses/${courseId}/marking/${itemId}`);
    await other.api('POST', '/sign-out');
    const me = await other.api<{ demoPeople: { givenName: string; familyName: string; what: string }[] }>('GET', '/me');
    const student = me.demoPeople.find((p) => p.what.startsWith('studies'))!;
    const entry = stack.entries.find((e) => e.givenName === student.givenName && e.familyName === student.familyName)!;
    // Whoever it is, their work is marked and not yet seen.
    const { mark } = await ines.api<{ mark: { version: number; state: string } }>('GET', work(entry));
    if (mark.state !== 'finished') {
      const { version } = await put(ines, entry, mark.version, 50_000);
      await ines.api('POST', `${work(entry)}/finish`, { version, isAboveConfirmed: false });
    }
    await other.signInDemo(`${student.givenName} ${student.familyName}`);
    await other.go(`/courses/${courseId}/week`);
    await other.text('Returned');
    const listed = (): Promise<boolean> => other.has('Condition report');
    const before = await other.api<{ back: { title: string }[] }>('GET', `/courses/${courseId}/own/week`);
    expect(before.back.map((b) => b.title)).not.toContain('Condition report');
    await ines.api('POST', `/courses/${courseId}/marking/${itemId}/release`, { enrolmentIds: [entry.enrolmentId] });
    await other.eventually(listed, 'the released mark did not appear');
    expect(await other.consoleErrors()).toEqual([]);
    expect(await ines.consoleErrors()).toEqual([]);
  });

  it('lets a student read an open page as it was until its changes are published, and again when that is taken back', async () => {
    const plan = await ines.api<{ units: { items: { id: string; title: string }[] }[] }>('GET', `/courses/${courseId}/plan`);
    const pageId = plan.units.flatMap((u) => u.items).find((i) => i.title === 'Counting a train')?.id ?? '';
    const study = `/courses/${courseId}/study/${pageId}`;
    await other.signInDemo('Ondine Garrick');
    await ines.go(`/courses/${courseId}/items/${pageId}`);
    await ines.text('Students read this text. What you change waits until you publish it.');
    await ines.click(ines.css('.ProseMirror > p'));
    await ines.type(ines.css('.ProseMirror'), Key.END, ' Count the leaves twice.');
    await ines.text('Not published.');
    await other.go(study);
    await other.text('Counting a train', 'h1');
    await other.text('Read this with a movement in front of you');
    expect(await other.has('Count the leaves twice.')).toBe(false);
    await ines.click(ines.button('See what changes'));
    await ines.text('Paragraphs that differ from what students read: 1 replaced.');
    expect(await ines.isAccessible()).toEqual([]);
    // Everything typed survives a reload, and is still not published.
    await rosemary.driver.navigate().refresh();
    await ines.text('Not published.');
    await ines.text('Count the leaves twice.');
    await ines.go(`/courses/${courseId}/plan`);
    await ines.text('changes not published');
    await ines.go(`/courses/${courseId}/items/${pageId}`);
    await ines.click(ines.button('Publish changes'));
    await ines.text('Students read the new text now.');
    await other.go(study);
    await other.text('Count the leaves twice.');
    await ines.click(ines.button('Undo'));
    await ines.text('Not published.');
    await other.go(study);
    await other.text('Read this with a movement in front of you');
    expect(await other.has('Count the leaves twice.')).toBe(false);
    await ines.click(ines.button('Drop the changes'));
    await ines.text('The changes are dropped; this is what students read.');
    expect(await ines.has('Count the leaves twice.')).toBe(false);
  });
});
