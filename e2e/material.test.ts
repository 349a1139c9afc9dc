import { By, Key } from 'selenium-webdriver';
import { jest } from '@jest/globals';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** What a course is made of: pages of blocks, files, who sees them and when, and what people say to each other. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let base = '';
let pageId = '';
interface Item {
  readonly id: string;
  readonly title: string;
  readonly kind: string;
  readonly version: number;
  readonly audience: readonly { readonly name: string }[];
  readonly opening: { readonly rules: readonly object[] };
}
interface Block {
  readonly type: string;
  readonly attrs?: Readonly<Record<string, unknown>>;
  readonly content?: readonly Block[];
  readonly text?: string;
}
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('material', true);
  h = hands(rosemary);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  base = `/courses/${me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
});
afterAll(() => rosemary?.close());
const items = async (): Promise<readonly Item[]> =>
  (await h.api<{ units: { items: Item[] }[] }>('GET', `${base}/plan`)).units.flatMap((u) => u.items);
const itemOf = async (title: string): Promise<Item> => (await items()).find((i) => i.title === title) as Item;
const blocks = async (): Promise<readonly Block[]> =>
  (await h.api<{ page: { document: Block } }>('GET', `${base}/items/${pageId}`)).page.document.content ?? [];
const saved = (what: (all: readonly Block[]) => boolean, message: string): Promise<boolean> =>
  h.eventually(async () => what(await blocks()), message);
const choose = async (word: string): Promise<void> => {
  await h.click(h.css('.tools .insert'));
  await h.css('.menu');
  const found = By.xpath(`//div[@role="menu"]//button[normalize-space(.)="${word}"]`);
  await rosemary.driver.wait(async () => (await rosemary.driver.findElements(found)).length > 0, 60_000);
  await h.click(rosemary.driver.findElement(found));
};
/** A key struck while another is held down. */
const chord = (held: string, key: string): Promise<void> => rosemary.driver.actions().keyDown(held).sendKeys(key).keyUp(held).perform();
/** The button that ends the form of a block. */
const endForm = (): Promise<void> =>
  h.click(rosemary.driver.findElement(By.xpath('//form[contains(@class, "block-form")]//button[normalize-space(.)="Insert"]')));

describe('a page of blocks', () => {
  it('takes words, a formula and a question by keyboard and form, and shows them as readers see them', async () => {
    pageId = (await itemOf('Where oil belongs')).id;
    await h.go(`${base}/items/${pageId}`);
    const editor = await h.css('.ProseMirror');
    await h.click(editor);
    await h.type(editor, 'First words of the page.');
    await saved((all) => JSON.stringify(all).includes('First words'), 'not saved');
    await choose('Formula');
    await h.type(h.css('.block-form textarea'), '\\frac{80}{10}');
    await h.css('.block-form .katex');
    expect(await h.isAccessible()).toEqual([]);
    await endForm();
    await h.css('.block-node .katex');
    await saved((all) => all.some((b) => b.type === 'formula' && b.attrs?.tex === '\\frac{80}{10}'), 'no formula');
  });

  it('asks a question only once it is whole', async () => {
    await choose('Question to check oneself');
    await h.text('Type the question.');
    await h.type(h.css('.block-form textarea'), 'Where does grease belong?');
    await h.type(h.css('input[aria-label="Answer 1"]'), 'On the locking face');
    await h.type(h.css('input[aria-label="Answer 2"]'), 'On the balance jewels');
    await endForm();
    await h.css('.block-node .question');
    await saved((all) => all.some((b) => b.type === 'question'), 'no question');
  });

  it('moves blocks and opens lines above and below by keys alone', async () => {
    const before = (await blocks()).map((b) => b.type);
    await h.click(h.css('.ProseMirror p'));
    await chord(Key.ALT, Key.ARROW_DOWN);
    await saved((all) => all[1]?.type === 'paragraph' && all[0]?.type === before[1], 'not moved down');
    await chord(Key.ALT, Key.ARROW_UP);
    await saved((all) => JSON.stringify(all.map((b) => b.type)) === JSON.stringify(before), 'not moved back');
    await chord(Key.CONTROL, Key.ENTER);
    await h.press('A line below');
    await saved((all) => all[1]?.content?.[0]?.text === 'A line below', 'no line below');
  });

  it('a block is taken by its grip and let go above another', async () => {
    const words = async (): Promise<(string | undefined)[]> => (await blocks()).map((b) => b.content?.[0]?.text ?? b.type);
    const before = await words();
    await rosemary.driver
      .actions()
      .move({ origin: await h.css('.ProseMirror > p:nth-of-type(2)') })
      .perform();
    await h.css('.gutter .grip');
    // The events of a drag by the browser, which a driver cannot bring about by the mouse alone.
    await rosemary.driver.executeScript(`
      const first = document.querySelector('.ProseMirror > p').getBoundingClientRect();
      const at = { clientX: first.left + 5, clientY: first.top + 2, dataTransfer: new DataTransfer(), bubbles: true, cancelable: true };
      const grip = document.querySelector('.grip');
      grip.dispatchEvent(new DragEvent('dragstart', at));
      document.elementFromPoint(at.clientX, at.clientY).dispatchEvent(new DragEvent('drop', at));
      grip.dispatchEvent(new DragEvent('dragend', at));`);
    await h.eventually(async () => (await words())[0] === before[1], 'not dragged');
    await h.click(h.css('.ProseMirror p'));
    await chord(Key.ALT, Key.ARROW_DOWN);
    await h.eventually(async () => JSON.stringify(await words()) === JSON.stringify(before), 'not put back');
  });

  it('keeps the structure of what is pasted from a word processor, and drops its junk', async () => {
    const html =
      '<html xmlns:o="urn"><style>p{color:red}</style><h1>Oils</h1><p class="MsoListParagraph" style="mso-list:l0 level1 lfo1"><span style="mso-list:Ignore">·</span>Thin</p>' +
      '<p class="MsoListParagraph" style="mso-list:l0 level1 lfo1"><span style="mso-list:Ignore">·</span>Thick</p><p>&nbsp;</p><p><b>Bold</b> <o:p></o:p><span style="color:red">plain</span></p><img src="https://elsewhere.example/x.png"></html>';
    await h.click(h.css('.ProseMirror p'));
    await chord(Key.CONTROL, Key.ENTER);
    await rosemary.driver.executeScript(
      "const data = new DataTransfer(); data.setData('text/html', arguments[0]); document.querySelector('.ProseMirror').dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))",
      html,
    );
    await saved((all) => all.some((b) => b.type === 'bulletList'), 'no list');
    const all = await blocks();
    expect(all.find((b) => b.type === 'heading')).toMatchObject({ attrs: { level: 2 }, content: [{ text: 'Oils' }] });
    expect(all.find((b) => b.type === 'bulletList')?.content).toHaveLength(2);
    expect(JSON.stringify(all)).not.toMatch(/elsewhere|color|·/);
    expect(await h.isAccessible()).toEqual([]);
  });

  it('finds an item for a link by letters of its title', async () => {
    await h.click(h.css('.ProseMirror p'));
    await rosemary.driver.executeScript(
      "const p = document.querySelector('.ProseMirror p'); const s = getSelection(); s.selectAllChildren(p); document.querySelector('.ProseMirror').focus()",
    );
    await h.click(h.css('.tools button[title="Link"]'));
    await h.type(h.css('.sheet .line-field input'), 'counting');
    await h.click(h.button('Counting a train'));
    const target = (await itemOf('Counting a train')).id;
    await saved((all) => JSON.stringify(all).includes(`/items/${target}`), 'no link');
  });

  it('takes a diagram drawn by keys alone, which can be drawn on later', async () => {
    const tool = (word: string) =>
      rosemary.driver.findElement(By.xpath(`//*[@aria-label="What to draw"]/button[normalize-space(.)="${word}"]`));
    await choose('Diagram, drawn here');
    await h.css('.drawing svg');
    await h.type(tool('Box'), Key.ENTER);
    await h.type(h.css('.drawing aside textarea'), 'Barrel');
    await h.type(tool('Oval'), Key.ENTER);
    await h.type(h.css('.drawing aside textarea'), 'Wheel');
    await rosemary.driver.executeScript('document.querySelector(\'[data-shape][aria-label*="Wheel"]\').focus()');
    await h.press(...Array<string>(20).fill(Key.ARROW_RIGHT), Key.DELETE);
    await h.eventually(async () => (await rosemary.driver.findElements(By.css('[data-shape]'))).length === 1, 'not removed');
    await h.click(rosemary.driver.findElement(By.xpath('//*[@aria-label="What to draw"]/button[normalize-space(.)="Undo"]')));
    await h.type(tool('Arrow'), Key.ENTER);
    await h.choose(h.field('From'), 1);
    await h.choose(h.field('To'), 2);
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Use this drawing'));
    await h.css('.block-form img.preview');
    await h.text('Say what the picture shows, or that it only decorates the page.');
    await h.type(h.field('What it shows'), 'The barrel drives the wheel');
    await endForm();
    const drawn = (all: readonly Block[]): string => String(all.find((b) => b.type === 'picture')?.attrs?.drawing ?? '');
    await saved((all) => drawn(all) !== '', 'no diagram');
    // The words that were selected when it was asked for are still there.
    expect(JSON.stringify(await blocks())).toContain('First words');
    const { shapes } = JSON.parse(drawn(await blocks())) as { shapes: { id: string; kind: string; startsAt?: string; endsAt?: string }[] };
    expect(shapes.map((s) => s.kind)).toEqual(['box', 'oval', 'arrow']);
    expect([shapes[2]?.startsAt, shapes[2]?.endsAt]).toEqual([shapes[0]?.id, shapes[1]?.id]);
    const wide = await rosemary.driver.executeScript<number>("return document.querySelector('.ProseMirror figure img').naturalWidth");
    expect(wide).toBeGreaterThan(300);
  });

  it('takes a voice recorded here, which says how long it is', async () => {
    await choose('Video or sound');
    await h.click(h.button('Record a voice'));
    await h.text('Recording', 'span');
    await h.text('0:02', 'span');
    await h.click(h.button('Pause'));
    await h.text('Paused', 'span');
    await h.click(h.button('Go on'));
    expect(await h.isAccessible()).toEqual([]);
    await h.click(rosemary.driver.findElement(By.xpath('//button[normalize-space(.)="Stop"]')));
    await h.css('audio[aria-label="What was recorded"]');
    await h.click(h.button('Use it'));
    await h.text('sound: a file of this course');
    await endForm();
    await saved((all) => all.some((b) => b.type === 'media' && b.attrs?.kind === 'audio'), 'no voice');
    expect((await blocks()).map((b) => b.type)).toContain('picture');
    const src = (await blocks()).find((b) => b.type === 'media')?.attrs?.src;
    const length = await rosemary.driver.executeAsyncScript<number>(
      'const a = new Audio(arguments[0]); a.onloadedmetadata = () => arguments[1](a.duration); a.onerror = () => arguments[1](-1)',
      src,
    );
    expect(length).toBeGreaterThan(1.5);
    expect(length).toBeLessThan(60);
  });

  it('keeps a picture that is pasted, once it is said what it shows or that it decorates', async () => {
    const before = (await blocks()).filter((b) => b.type === 'picture').length;
    await h.click(h.css('.ProseMirror p'));
    await rosemary.driver.executeAsyncScript(`const done = arguments[0];
      const canvas = Object.assign(document.createElement('canvas'), { width: 60, height: 40 });
      canvas.getContext('2d').fillRect(0, 0, 30, 40);
      canvas.toBlob((bytes) => {
        const clipboardData = new DataTransfer();
        clipboardData.items.add(new File([bytes], 'pasted.png', { type: 'image/png' }));
        document.querySelector('.ProseMirror').dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
        done();
      }, 'image/png')`);
    await h.text('Say what the picture shows, or that it only decorates the page.');
    await h.css('.v-overlay img.preview');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(rosemary.driver.findElement(By.xpath('//label[contains(., "It only decorates the page")]//input')));
    await h.click(rosemary.driver.findElement(By.xpath('//div[contains(@class, "v-overlay")]//button[normalize-space(.)="Insert"]')));
    await saved((all) => all.filter((b) => b.type === 'picture' && b.attrs?.isDecorative === true).length === 1, 'no pasted picture');
    expect((await blocks()).filter((b) => b.type === 'picture')).toHaveLength(before + 1);
  });

  it('is kept as a template, and an earlier version is looked at and brought back', async () => {
    await h.click(h.button('Save copy as template'));
    await h.type(h.css('input[aria-label="Title of the template"]'), 'Bench day', Key.ENTER);
    await h.button('Replace by Bench day');
    const versions = await h.api<{ versions: { number: number; words: number }[] }>('GET', `${base}/items/${pageId}/versions`);
    expect(versions.versions.length).toBeGreaterThan(0);
    await h.click(rosemary.driver.findElement(By.xpath('//h4[normalize-space(.)="Versions"]/following::li[1]//button')));
    await h.css('.old .document');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Restore this version'));
    await h.text('is back');
    await h.click(h.button('Undo'));
  });
});

describe('files of the course', () => {
  it('are added with their names, put in a folder, shown in the page, and found to be shown', async () => {
    const folder = rosemary.makeFolder();
    writeFileSync(join(folder, 'grease table.txt'), 'Pallet stones: grease');
    writeFileSync(join(folder, 'grease table 2.txt'), 'Pallet stones: less grease');
    await h.go(`${base}/files`);
    await h.css('table, .empty');
    await h.click(h.button('Add folder'));
    await h.type(h.css('input[aria-label="Title of the folder"]'), 'Tables', Key.ENTER);
    await h.click(h.button('Tables'));
    await h.text('This folder is empty.');
    await h.type(h.css('.files input[type=file]'), join(folder, 'grease table.txt'));
    await h.click(h.button('grease table.txt'));
    await h.text('nothing, so no student reaches it');
    expect(await h.isAccessible()).toEqual([]);
    await h.go(`${base}/items/${pageId}`);
    await h.click(h.css('.ProseMirror p'));
    await choose('File, shown here');
    await h.choose(h.css('.block-form .action-menu'), 'grease table.txt');
    await endForm();
    await saved((all) => all.some((b) => b.type === 'fileShown'), 'no file in the page');
    await h.go(`${base}/files`);
    await h.click(h.button('Tables'));
    await h.click(h.button('grease table.txt'));
    await h.text('Where oil belongs', 'a');
    await h.type(h.css('aside input[type=file]'), join(folder, 'grease table 2.txt'));
    await h.text('is replaced wherever it stands');
    await h.text('It held before');
  });
});

describe('who sees it, and when', () => {
  it('is for a section, waits for another item, and the student is told why', async () => {
    await h.go(`${base}/plan?item=${pageId}&field=opening`);
    await h.css('details.more[open]');
    await h.choose(h.field('For a section, a group or a student'), 'Morning bench');
    await h.eventually(async () => (await itemOf('Where oil belongs')).audience[0]?.name === 'Morning bench', 'no audience');
    await h.choose(h.field('Another opening rule'), 'What a hairspring does');
    await h.eventually(async () => (await itemOf('Where oil belongs')).opening.rules.length === 1, 'no rule');
    await h.text('“What a hairspring does” is done');
    await h.click(h.css('button[aria-label="Not for Morning bench any more"]'));
    await h.eventually(async () => (await itemOf('Where oil belongs')).audience.length === 0, 'still for a section');
    expect(await h.isAccessible()).toEqual([]);
    await h.set(h.css('.inspector .choice-field input'), 'open');
    await h.eventually(
      async () => (await h.api<{ item: { isDraft: boolean } }>('GET', `${base}/items/${pageId}`)).item.isDraft === false,
      'still a draft',
    );
  });

  it('asks for whom new dates are when students have begun, and takes it back', async () => {
    const report = await itemOf('Condition report');
    const dueOf = async (): Promise<string> => (await h.api<{ item: { dueAt: string } }>('GET', `${base}/items/${report.id}`)).item.dueAt;
    const before = await dueOf();
    await h.go(`${base}/plan?item=${report.id}`);
    await h.fill(h.css('[data-field=dueAt] input'), '20 Nov 18:00');
    await h.press(Key.ENTER);
    await h.text('of them have begun');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Go on'));
    // Whoever moves by it is shown before it is done.
    await h.eventually(async () => {
      const [apply] = await rosemary.driver.findElements(By.xpath('//*[contains(@class, "ripple")]//button[normalize-space(.)="Apply"]'));
      if (apply !== undefined) await apply.click().catch(() => undefined);
      return (await dueOf()) !== before;
    }, 'no new date');
    const kept = await rosemary.query('select count(*)::int as many from date_variant where item_id = $1 and enrolment_id is not null', [
      report.id,
    ]);
    expect((kept as { rows: { many: number }[] }).rows[0]?.many).toBeGreaterThan(10);
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await dueOf()) === before, 'not taken back');
  });

  it('a whole unit has dates of its own', async () => {
    await h.go(`${base}/plan`);
    await h.css('button[aria-label="Dates and audience of the unit Restoring with care"]');
    // It fades in under the mouse; a screen reader and the keyboard reach it at once.
    await rosemary.driver.executeScript(
      'document.querySelector(\'button[aria-label="Dates and audience of the unit Restoring with care"]\').click()',
    );
    await h.text('Nothing in a unit is announced');
    await h.fill(h.field('Opens'), '1 Dec 08:00');
    await h.press(Key.ENTER);
    await h.text('opens Tue 1 Dec');
    await h.click(h.button('Undo'));
  });
});

describe('what people say to each other', () => {
  it('an announcement is published for a section, and seen to be read', async () => {
    await h.go(`${base}/announcements`);
    await h.click(h.button('Announce something'));
    await h.type(h.field('Title'), 'Bring your loupe');
    await h.type(h.css('.write .ProseMirror'), 'We look at pallet stones on Thursday.');
    await rosemary.driver.navigate().refresh();
    await h.click(h.button('Announce something'));
    expect(await (await h.field('Title')).getAttribute('value')).toBe('Bring your loupe');
    await h.text('We look at pallet stones');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Publish'));
    await h.text('“Bring your loupe” is published.');
    await h.text('read by 0 of 48');
  });

  it('the student finds the notice, the page that waits, and answers in the discussion', async () => {
    const talk = await itemOf('What your first strip-down taught you');
    const me = await h.api<{ person: { id: string } }>('GET', '/me');
    expect(me.person.id).not.toBe('');
    await h.signInDemo('Ondine Garrick');
    await h.click(h.css('.bell'));
    await h.click(h.button('Bring your loupe'));
    await h.text('We look at pallet stones');
    await h.go(`${base}/study`);
    await h.text('Where oil belongs');
    await h.go(`${base}/study/${talk.id}`);
    await h.click(h.css('button[aria-label="Answer Keeping screws apart"]'));
    await h.type(h.css('.write .ProseMirror'), 'A sheet of foam with slits.');
    await rosemary.driver.navigate().refresh();
    await h.css('.write .ProseMirror');
    await h.text('A sheet of foam with slits.');
    await h.click(rosemary.driver.findElement(By.xpath('//form//button[normalize-space(.)="Answer"]')));
    await h.gone('.write');
    await h.text('A sheet of foam with slits.');
    expect(await h.isAccessible()).toEqual([]);
    await h.go(`${base}/calendar`);
    await h.css('.grid');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('the teacher is told on the Desk, and keeps the thread on top', async () => {
    await h.signInDemo('Ines Okafor-Lind');
    await h.text('new posts · What your first strip-down taught you');
    const talk = await itemOf('What your first strip-down taught you');
    await h.go(`${base}/items/${talk.id}`);
    await h.text('A sheet of foam with slits.');
    const thread = 'section[aria-label="The third wheel would not lift"]';
    await h.click(await (await h.css(thread)).findElement(By.xpath('.//button[normalize-space(.)="Pin"]')));
    await h.text('pinned');
    await h.eventually(async () => (await (await h.css('.talk section h3')).getText()).startsWith('The third wheel'), 'not on top');
    expect(await h.isAccessible()).toEqual([]);
  });
});

describe('the rest of building', () => {
  it.each([
    ['objectives', '.objectives .line'],
    ['time', '.weeks'],
    ['settings', '.section'],
  ])('%s is clean, and shows what the demo has', async (view, selector) => {
    await h.go(`${base}/${view}`);
    await h.css(selector);
    expect(await h.isAccessible()).toEqual([]);
  });

  it('an objective is found and aligned in one step', async () => {
    const report = await itemOf('Mid-term paper');
    await h.go(`${base}/plan?item=${report.id}`);
    await h.css('.row.on');
    await h.type(h.css('input[role=combobox][placeholder^=Align]'), 'ratio', Key.ENTER);
    await h.css('button[aria-label="Not aligned with T1"]');
    const aligned = async () => (await h.api<{ objectiveIds: string[] }>('GET', `${base}/items/${report.id}/objectives`)).objectiveIds;
    await h.eventually(async () => (await aligned()).length === 1, 'not aligned');
  });

  it('a section is parted and joined again', async () => {
    await h.go(`${base}/settings`);
    await h.click(h.button('Split section'));
    await h.css('.names input');
    await h.type(h.field('Title of the new section'), 'Saturday');
    await h.click(h.css('.names label:nth-child(1) input'));
    await h.click(h.css('.names label:nth-child(2) input'));
    await h.click(h.css('.parting button[type=submit]'));
    await h.eventually(async () => {
      const [apply] = await rosemary.driver.findElements(By.xpath('//*[contains(@class, "ripple")]//button[normalize-space(.)="Apply"]'));
      if (apply !== undefined) await apply.click().catch(() => undefined);
      return h.has('are now Saturday');
    }, 'not parted');
    await h.click(h.button('Undo'));
    await h.eventually(async () => !(await h.has('2 students')), 'not taken back');
  });

  it('an item and a unit are switched off with their ripple, ask for nothing while they are, and are on again as they were', async () => {
    const item = await itemOf('Gear ratios');
    const say = async (words: string): Promise<void> => {
      await h.eventually(async () => {
        const [apply] = await rosemary.driver.findElements(By.xpath('//*[contains(@class, "ripple")]//button[normalize-space(.)="Apply"]'));
        if (apply !== undefined) await apply.click().catch(() => undefined);
        return h.has(words);
      }, `not said: ${words}`);
    };
    await h.go(`${base}/plan`);
    await h.text('weeks 3–4 · 6 h 40 · 120 points');
    const whole = await (await h.css('.top .soft')).getText();
    const row = await h.css(`#row-${item.id} .date`);
    await rosemary.driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", row);
    await h.click(row);
    await h.set(h.field('State: open'), 'off');
    await say('“Gear ratios” is changed.');
    await h.text('weeks 3–4 · 6 h 15 of 6 h 40 · 100 of 120 points');
    await h.text('switched off: students see nothing of it, and it counts nowhere');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.css('[aria-label="Dates and audience of the unit The going train"]'));
    await h.click(h.button('Switch the other 5 off'));
    await say('“The going train” is switched off.');
    await h.text('weeks 3–4 · 0 min of 6 h 40 · 0 of 120 points');
    expect(await (await h.css('.top .soft')).getText()).toMatch(/ of .* h .* of .* points/);
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Undo'));
    await h.text('weeks 3–4 · 6 h 15 of 6 h 40 · 100 of 120 points');
    await h.click(h.button('Switch the one that is off on'));
    await say('“The going train” is on again as before.');
    await h.text('weeks 3–4 · 6 h 40 · 120 points');
    expect(await (await h.css('.top .soft')).getText()).toBe(whole);
  });

  it('leaves no error in the console', async () => {
    expect(await h.consoleErrors()).toEqual([]);
  });
});
