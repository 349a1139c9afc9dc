import { By, Key } from 'selenium-webdriver';
import { jest } from '@jest/globals';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { ZipFile } from 'yazl';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** Bring in a package: one of another house, one of our own, and what cannot be read. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let base = '';
let other = '';
let folder = '';
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('packages', true);
  h = hands(rosemary);
  folder = mkdtempSync(join(tmpdir(), 'rosemary-packages-'));
  await h.signInDemo('Ines Okafor-Lind');
  const { courses } = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  const idOf = (code: string): string => courses.find((c) => c.code === code && c.run === 'autumn')?.id ?? '';
  [base, other] = [`/courses/${idOf('HOR-110')}`, `/courses/${idOf('HOR-205')}`];
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await rosemary?.close();
});

interface Unit {
  readonly title: string;
  readonly items: readonly { readonly id: string; readonly title: string }[];
}
const units = async (): Promise<readonly Unit[]> => (await h.api<{ units: Unit[] }>('GET', `${other}/plan`)).units;
const many = async (): Promise<number> => (await units()).flatMap((u) => u.items).length;

/** A folder that the server’s tests read, as one file. */
async function packFolder(from: string, name: string): Promise<string> {
  const root = new URL(`../server/test/files/${from}`, import.meta.url).pathname;
  const walk = (path: string): string[] =>
    readdirSync(path).flatMap((name) => (statSync(join(path, name)).isDirectory() ? walk(join(path, name)) : [join(path, name)]));
  const zip = new ZipFile();
  for (const path of walk(root)) zip.addBuffer(readFileSync(path), relative(root, path));
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  const path = join(folder, name);
  writeFileSync(path, Buffer.concat(parts));
  return path;
}
async function takeOut(kind: string, name: string): Promise<string> {
  const bytes = await rosemary.driver.executeAsyncScript<string>(
    "const done = arguments[1]; fetch('/api' + arguments[0]).then((r) => r.arrayBuffer()).then((b) => { let s = ''; for (const x of new Uint8Array(b)) s += String.fromCharCode(x); done(btoa(s)); })",
    `${base}/${kind}`,
  );
  writeFileSync(join(folder, name), Buffer.from(bytes, 'base64'));
  return join(folder, name);
}
const choose = (path: string): Promise<void> => h.type(h.css('input[type=file]'), path);

describe('a package is brought in', () => {
  it('is found by its letters, and read before anything happens: what comes, and what does not', async () => {
    await h.go(`${other}/plan`);
    await h.click(h.css('.find input'));
    await h.press('import and');
    // The course one stands in comes first; Enter opens it.
    await h.text('Import and export', 'button');
    await h.press(Key.ENTER);
    await h.text('Import a package');
    expect(new URL(await rosemary.driver.getCurrentUrl()).pathname).toBe(`${other}/exchange`);
    await h.text('have no place in a package');
    const before = await many();
    await choose(await packFolder('packages/whole', 'tower.imscc'));
    await h.text('Clocks of the tower');
    await h.text('7 items in 4 units');
    await h.text('“Questions on bells”: questions are not taken in yet');
    await h.text('Glossary of ropes');
    expect(await h.isAccessible()).toEqual([]);
    expect(await many()).toBe(before);
  });

  it('comes in when the teacher says so, and its pages read as they should', async () => {
    await h.click(h.button('Import the rest'));
    await h.text('7 items in 4 units and 2 files came in.');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('To the Plan'));
    await h.text('The movement · Bells');
    let id = '';
    let seen: readonly string[] = [];
    await h
      .eventually(async () => {
        const items = (await units()).flatMap((u) => u.items);
        seen = items.map((i) => i.title);
        id = items.find((i) => i.title === 'Weights and ropes')?.id ?? '';
        return id !== '';
      }, 'the page is not in the Plan')
      .catch((error: unknown) => {
        throw new Error(`${String(error)}; there is: ${seen.join(', ')}`, { cause: error });
      });
    await h.go(`${other}/items/${id}`);
    await h.text('going weight');
    await h.text('After a hundred years');
    const picture = await h.css('.ProseMirror img');
    await h.eventually(
      async () => rosemary.driver.executeScript<boolean>('return arguments[0].naturalWidth === 40', picture),
      'the picture is not shown',
    );
    expect(await rosemary.driver.findElements(By.css('.ProseMirror table'))).toHaveLength(1);
  });

  it('our own archive comes in beside what is there, and one Undo takes it back', async () => {
    const archive = await takeOut('archive', 'course.zip');
    const before = await units();
    await h.go(`${other}/exchange`);
    await choose(archive);
    await h.text('Rosemary’s archive');
    await h.click(h.button('Import it'));
    // Items that are open count for everybody at once.
    await h.click(h.button('Apply'));
    await h.text('came in.');
    await h.text('The policy stays as it is here');
    expect((await units()).length).toBeGreaterThan(before.length);
    await h.click(h.button('Undo'));
    await h.eventually(
      async () => JSON.stringify((await units()).map((u) => u.title)) === JSON.stringify(before.map((u) => u.title)),
      'not taken back',
    );
  });

  it('what we gave out as an open package is read again with nothing to complain of but what has no place', async () => {
    const cartridge = await takeOut('cartridge', 'course.imscc');
    await h.go(`${other}/exchange`);
    await choose(cartridge);
    await h.text('Mechanical Watchmaking: Foundations', 'h3');
    await h.text('Nothing in it is left out.');
    await h.text('Reading a timing trace');
    await h.click(h.button('leave it'));
    await h.css('.drop');
  });

  it('what is no package says so, and the next one can be chosen at once', async () => {
    writeFileSync(join(folder, 'none.zip'), 'not a zip');
    await choose(join(folder, 'none.zip'));
    await h.text('This is no zip archive');
    expect(await h.isAccessible()).toEqual([]);
    await choose(join(folder, 'tower.imscc'));
    await h.text('Clocks of the tower');
  });
});

describe('the school’s lists are brought in', () => {
  it('by the administrator, who sees row by row what will be added and refused before it happens', async () => {
    await h.signInDemo('Aurelio Brandt');
    await h.go('/school');
    await h.click(h.button('Import the school’s lists'));
    await choose(await packFolder('lists/roster', 'roster.zip'));
    await h.text('10 added, 11 refused.');
    await h.text('is held in “t2”, which is no term of academicSessions.csv.');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('added 10'));
    await h.eventually(async () => (await rosemary.driver.findElements(By.css('td.clay'))).length === 0, 'refused rows stayed');
    await h.click(h.button('Import the rest'));
    await h.text('3 people were mailed a way to set a password.');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('who sees what files take, and sets how much there may be', async () => {
    await h.go('/school');
    await h.click(h.button('Storage'));
    await h.text('By course');
    await h.text('HOR-110 autumn Mechanical Watchmaking: Foundations');
    expect(await h.isAccessible()).toEqual([]);
    await h.fill(h.field('A course may hold'), '5');
    await h.click(h.button('Save limits'));
    await h.text('A course may hold');
    await h.eventually(
      async () => (await rosemary.driver.findElements(By.css('.v-input--error'))).length === 1,
      'nothing says that this is too little',
    );
    await h.fill(h.field('A course may hold'), '500');
    await h.click(h.button('Save limits'));
    await h.text('The limits are saved.');
    const most = async (): Promise<number> => (await rosemary.query('select most_course_mb from school')).rows[0].most_course_mb as number;
    expect(await most()).toBe(500);
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await most()) === 20_480, 'the limits are not put back');
  });

  it('and whom they name sets a password by the way that was mailed, and is in', async () => {
    const { mails } = await h.api<{ mails: { to: string; body: string }[] }>('GET', '/outbox');
    const way = /\/welcome\/\S+/.exec(mails.find((m) => m.to === 'gita@dials.example')?.body ?? '')?.[0] ?? '';
    await h.api('POST', '/sign-out');
    await h.go(way);
    await h.text('Welcome, Gita');
    expect(await h.isAccessible()).toEqual([]);
    await h.type(h.css('input[type=password]'), 'a long enough password');
    await h.click(h.button('Set it and go in'));
    await h.text('Dials, painted and printed');
    await h.go(way);
    await h.text('This way in is closed');
    await h.text('no longer open');
  });

  it('leaves no error in the console', async () => {
    expect(await h.consoleErrors()).toEqual([]);
  });
});
