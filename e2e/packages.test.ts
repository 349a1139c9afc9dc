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
jest.setTimeout(120_000);
beforeAll(async () => {
  rosemary = await startRosemary('packages', 3948, true);
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

/** The cartridge that the server’s tests read, as one file. */
async function packTower(): Promise<string> {
  const root = new URL('../server/test/files/packages/whole', import.meta.url).pathname;
  const walk = (path: string): string[] =>
    readdirSync(path).flatMap((name) => (statSync(join(path, name)).isDirectory() ? walk(join(path, name)) : [join(path, name)]));
  const zip = new ZipFile();
  for (const path of walk(root)) zip.addBuffer(readFileSync(path), relative(root, path));
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  const path = join(folder, 'tower.imscc');
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
    await h.press('packages');
    // The course one stands in comes first; Enter opens it.
    await h.text('Packages: take the course out, bring one in', 'button');
    await h.press(Key.ENTER);
    await h.text('Bring a package in');
    await h.text('have no place in a package');
    const before = await many();
    await choose(await packTower());
    await h.text('Clocks of the tower');
    await h.text('7 items in 4 units');
    await h.text('“Questions on bells”: questions are not taken in yet');
    await h.text('Glossary of ropes');
    expect(await h.isAccessible()).toEqual([]);
    expect(await many()).toBe(before);
  });

  it('comes in when the teacher says so, and its pages read as they should', async () => {
    await h.click(h.button('Bring in the rest'));
    await h.text('7 items in 4 units and 2 files came in.');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('To the Plan'));
    await h.text('The movement · Bells');
    const page = (await units()).flatMap((u) => u.items).find((i) => i.title === 'Weights and ropes');
    await h.go(`${other}/items/${page?.id ?? ''}`);
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
    await h.click(h.button('Bring'));
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

  it('leaves no error in the console', async () => {
    expect(await h.consoleErrors()).toEqual([]);
  });
});
