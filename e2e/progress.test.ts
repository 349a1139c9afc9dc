import { jest } from '@jest/globals';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** The report of a course: who needs a word is written to, a test is compared with one before it, and a weak criterion leads to the works. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let base = '';
let folder = '';
jest.setTimeout(240_000);
beforeAll(async () => {
  rosemary = await startRosemary('progress', true);
  h = hands(rosemary);
  folder = rosemary.makeFolder();
  await h.signInDemo('Ines Okafor-Lind');
  const { courses } = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  base = `/courses/${courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
  const { driver } = rosemary as unknown as { driver: { sendDevToolsCommand: (name: string, values: object) => Promise<void> } };
  await driver.sendDevToolsCommand('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder });
}, 120_000);
afterAll(() => rosemary?.close());

/** A file that was taken out, once it is there whole. */
async function taken(name: string): Promise<Buffer> {
  const path = join(folder, name);
  await h.eventually(
    async () => existsSync(path) && !readdirSync(folder).some((file) => file.endsWith('.crdownload')),
    `${name} was not taken out`,
  );
  return readFileSync(path);
}
const linesOf = (csv: Buffer): string[][] =>
  csv
    .toString('utf8')
    .replace(/^\uFEFF/, '')
    .trim()
    .split(/\r?\n/)
    .map((line) =>
      (line.match(/("([^"]|"")*"|[^,]*)(,|$)/g) ?? []).slice(0, -1).map((cell) => cell.replace(/,$/, '').replace(/^"|"$/g, '')),
    );

describe('who needs a word', () => {
  it('is led to from the Desk, with the reason of each', async () => {
    await h.go('/');
    await h.text('1 person silent for 8 days or more');
    await h.click(h.css('a[href*="rule=silence"], [href*="rule=silence"]'));
    await h.text('nothing recorded for 32 days; half of the class was here within 1 day');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('is written to: somebody silent, somebody falling, somebody implausibly fast', async () => {
    for (const [rule, name, words] of [
      ['Silent 1', 'Montoya, Fidel', 'I have not seen you in the course for a while.'],
      ['Falling', 'Dvorsky, Piet', 'Your last results lie under what you showed before.'],
      ['Implausibly fast 1', 'Quist, Beno', 'You were done with a quiz in far less time than it usually takes.'],
    ] as const) {
      await h.go(`${base}/progress`);
      await h.click(h.button(rule));
      await h.click(h.css(`button[aria-label="Write to ${name}"]`));
      await h.eventually(async () => ((await (await h.css('textarea')).getAttribute('value')) ?? '').includes(words), 'the prepared text');
      await h.click(h.button('Send'));
      await h.text('The message is sent, and noted here.');
    }
    const { rows } = await rosemary.query(
      `select p.family_name from word_note n join enrolment e on e.id = n.enrolment_id join person p on p.id = e.person_id where n.kind = 'wrote' order by 1`,
    );
    expect(rows.map((r) => r.family_name as string)).toEqual(['Dvorsky', 'Montoya', 'Quist']);
    await h.go('/');
    await h.text('What waits for you');
    expect(await h.has('silent for 8 days')).toBe(false);
  });

  it('has the note on their page, which they read without it', async () => {
    const { rows } = await rosemary.query(
      "select e.id from enrolment e join person p on p.id = e.person_id where p.family_name = 'Montoya'",
    );
    await h.go(`${base}/students/${rows[0]?.id as string}`);
    await h.text('Notes of staff');
    await h.text('I have not seen you in the course for a while.');
    expect(await h.isAccessible()).toEqual([]);
    await h.signOut();
    await h.signInDemo('Fidel Montoya');
    await h.go(`${base}/messages`);
    await h.text('How are you?');
    await h.go(`${base}/my-progress`);
    await h.text('Results are what was released to you.');
    expect(await h.has('Notes of staff')).toBe(false);
    expect(await h.isAccessible()).toEqual([]);
    await h.signOut();
    await h.signInDemo('Ines Okafor-Lind');
  });
});

describe('a test before and after', () => {
  it('is compared in one section, and taken out exactly so', async () => {
    await h.go(`${base}/progress`);
    await h.click(h.button('Morning bench'));
    await h.click(h.button('Compare two'));
    await h.set(h.field('before'), 'Where you start');
    await h.set(h.field('after'), 'Where you are now');
    const { rows } = await rosemary.query(
      `select p.family_name || ', ' || p.given_name as name, b.raw / 20 as before, a.raw / 20 as after from enrolment e join person p on p.id = e.person_id
       join section s on s.id = e.section_id and s.title = 'Morning bench'
       join grade b on b.enrolment_id = e.id and b.column_id = (select c.id from grade_column c join item i on i.id = c.item_id where i.title = 'Where you start')
       join grade a on a.enrolment_id = e.id and a.column_id = (select c.id from grade_column c join item i on i.id = c.item_id where i.title = 'Where you are now')
       where e.withdrawn_at is null and not e.is_sample`,
    );
    const pairs = rows as { name: string; before: string; after: string }[];
    const rose = pairs.filter((p) => Number(p.after) > Number(p.before)).length;
    const mean = pairs.reduce((sum, p) => sum + Number(p.after) - Number(p.before), 0) / pairs.length;
    await h.text(`Of ${pairs.length} students with both, ${rose} rose`);
    await h.text(`Mean change +${(mean * 100).toFixed(1)} percentage points`);
    await h.click(h.css('button[aria-label="Download Before and after"]'));
    await h.click(h.css('.v-overlay--active [data-value="csv"]'));
    const [head, ...lines] = linesOf(await taken('Where you start and Where you are now compared.csv'));
    expect(head).toEqual(['Student', 'Where you start (%)', 'Where you are now (%)', 'Change (percentage points)']);
    expect(lines.map(([name, before, after]) => [name, Number(before), Number(after)]).sort()).toEqual(
      pairs.map((p) => [p.name, Math.round(Number(p.before) * 1000) / 10, Math.round(Number(p.after) * 1000) / 10]).sort(),
    );
  });

  it('is told of by keyboard, and its picture stands by itself', async () => {
    const first = await h.css('.compared [data-mark][tabindex="0"]');
    await rosemary.driver.executeScript('arguments[0].focus()', first);
    await h.press(Key.ARROW_RIGHT);
    await h.eventually(
      async () => /from \d+ % to \d+ %/.test(await (await h.css('.compared .told')).getText()),
      'the mark in hand is told of',
    );
    await h.click(h.css('button[aria-label="Download Before and after"]'));
    await h.click(h.css('.v-overlay--active [data-value="svg"]'));
    const svg = (await taken('Where you start and Where you are now compared.svg')).toString('utf8');
    expect(svg).toContain('xmlns="http://www.w3.org/2000/svg"');
    expect(svg).toContain('stroke="rgb(');
    await h.click(h.css('button[aria-label="Download Before and after"]'));
    await h.click(h.css('.v-overlay--active [data-value="png"]'));
    expect((await taken('Where you start and Where you are now compared.png')).subarray(1, 4).toString()).toBe('PNG');
    expect(await h.isAccessible()).toEqual([]);
  });
});

describe('a weak criterion', () => {
  it('leads to the works it was judged in', async () => {
    await h.go(`${base}/progress`);
    await h.set(h.field('looked at by'), 'criterion of a rubric');
    await h.text('Weakest: “Evidence, in “Condition report””');
    await h.click(h.css('#objectives-sheet [data-mark][aria-label^="Evidence"]'));
    await h.text('share of the points of 1 criterion, from 1 piece of work');
    await h.click(h.css('#objectives-sheet .made .remarks a'));
    await h.text('Condition report');
    await h.eventually(async () => (await rosemary.driver.getCurrentUrl()).includes('/stacks/'), 'the works');
    expect(await h.consoleErrors()).toEqual([]);
  });

  it('is taken to a meeting on paper, sheet by sheet', async () => {
    await h.go(`${base}/progress`);
    await h.text('Visits and results');
    await h.css('#visits-sheet svg');
    const { driver } = rosemary as unknown as {
      driver: { sendAndGetDevToolsCommand: (name: string, values: object) => Promise<{ data: string }> };
    };
    const { data } = await driver.sendAndGetDevToolsCommand('Page.printToPDF', { preferCSSPageSize: true });
    expect(Buffer.from(data, 'base64').subarray(0, 5).toString()).toBe('%PDF-');
  });
});
