import { jest } from '@jest/globals';
import { By, Key } from 'selenium-webdriver';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** Work that comes in by other ways than text, is talked about, asked for once more, and held against what it was. */
let teacher: Rosemary;
let student: Rosemary;
let h: ReturnType<typeof hands>;
let s: ReturnType<typeof hands>;
let base = '';
let itemId = '';
let enrolmentId = '';
interface Work {
  readonly entry: { readonly state: string };
  readonly attempts: readonly { readonly link: string; readonly files: readonly { readonly mediaType: string }[] }[];
  readonly notes: readonly { readonly isAnswered: boolean }[];
}
jest.setTimeout(300_000);
beforeAll(async () => {
  teacher = await startRosemary('revision', true);
  student = await teacher.second();
  h = hands(teacher);
  s = hands(student);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  base = `/courses/${me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
  const { units } = await h.api<{ units: { items: { id: string; title: string }[] }[] }>('GET', `${base}/plan`);
  itemId = units.flatMap((u) => u.items).find((i) => i.title === 'Cleaning plan')?.id ?? '';
  const { members } = await h.api<{ members: { enrolmentId: string; givenName: string; familyName: string }[] }>('GET', `${base}/roster`);
  enrolmentId = members.find((m) => m.givenName === 'Ondine' && m.familyName === 'Garrick')?.enrolmentId ?? '';
  await s.signInDemo('Ondine Garrick');
});
afterAll(() => teacher?.close());
const work = (): Promise<Work> => h.api<Work>('GET', `${base}/marking/${itemId}/${enrolmentId}`);

describe('what comes in, in other ways', () => {
  it('is set on a page one can take in, and how it is judged with it', async () => {
    await h.go(`${base}/items/${itemId}`);
    await h.text('How it is judged', 'span');
    await h.click(h.field('a recording of the voice, made here'));
    await h.eventually(
      async () =>
        (await h.api<{ assignment: { acceptsRecording: boolean } }>('GET', `${base}/items/${itemId}`)).assignment.acceptsRecording,
      'not set',
    );
    await h.set(h.field('How it is judged'), 'words');
    await h.text('It counts nothing and has no points.');
    expect(await h.isAccessible()).toEqual([]);
    await h.set(h.field('How it is judged'), 'points');
    await h.text('Rubric', 'h2');
    await h.choose(h.button('Begin with a rubric'), 'starter 0');
    await h.text('4 criteria, 40 points');
    expect(await h.isAccessible()).toEqual([]);
    await h.type(h.field('Title to keep the rubric by'), 'Our report');
    await h.click(h.button('Keep this one'));
    await h.text('“Our report” is kept among your rubrics.');
    await h.click(h.button('Save the rubric'));
    await h.text('The rubric is saved.');
    await h.text('what matters is named, where it is and what shows it');
    const { item } = await h.api<{ item: { version: number } }>('GET', `${base}/items/${itemId}`);
    await h.api('PATCH', `${base}/items/${itemId}`, { version: item.version, isDraft: false });
  });

  it('a text, an address and a recording are handed in together', async () => {
    await s.go(`${base}/study/${itemId}`);
    await s.type(s.css('.answer .ProseMirror'), 'First the case is opened. Then the parts are bathed.');
    await s.type(s.field('The address of your work'), 'cleaning.example/plan');
    await s.click(s.button('Record a voice'));
    await s.text('0:01', 'span');
    await s.click(student.driver.findElement(By.xpath('//button[normalize-space(.)="Stop"]')));
    await s.click(s.button('Use it'));
    await s.text('Recording 1.weba', 'a');
    expect(await s.isAccessible()).toEqual([]);
    const handIn = By.xpath('//form//button[normalize-space(.)="Hand in"]');
    await s.click(student.driver.findElement(handIn));
    // What is no address is refused in words that say how to mend it, and nothing is lost.
    await s.text('is no address of the web');
    await s.fill(s.field('The address of your work'), 'https://cleaning.example/plan');
    await s.click(student.driver.findElement(handIn));
    await s.text('Handed in.');
    const [attempt] = (await work()).attempts;
    expect(attempt?.link).toBe('https://cleaning.example/plan');
    expect(attempt?.files.map((f) => f.mediaType)).toEqual(['audio/webm']);
  });
});

describe('a revision', () => {
  it('is asked for with a note and a new date, and can be undone', async () => {
    await h.go(`${base}/marking/${itemId}/${enrolmentId}`);
    await h.css('#work-text');
    await h.text('https://cleaning.example/plan', 'a');
    await h.css('audio');
    await h.selectWords('#work-text', 'parts are bathed');
    await h.press('n');
    await h.type(h.css('textarea[aria-label="Note"]'), 'In what, and how long?', Key.ENTER);
    await h.css('.note-number');
    await h.selectWords('#work-text', 'First the case');
    await h.press('r');
    await h.type(h.field('A stock remark, by its letters or words'), 'order');
    await h.text('In which order? Number the steps as you took them.');
    expect(await h.isAccessible()).toEqual([]);
    await h.press(Key.ENTER);
    await h.eventually(
      async () =>
        (await (await h.css('textarea[aria-label="Note"]')).getAttribute('value')) === 'In which order? Number the steps as you took them.',
      'the remark is not in the note',
    );
    await h.press(Key.ENTER);
    await h.eventually(async () => (await work()).notes.length === 2, 'no note of the remark');
    const remarks = await h.api<{ shortcut: string; uses: number }[]>('GET', '/remarks');
    expect(remarks.find((r) => r.shortcut === 'order')?.uses).toBe(1);
    await h.click(h.button('ask for a revision'));
    await h.type(h.field('What to revise'), 'Name each bath and its minutes.');
    await teacher.driver.navigate().refresh();
    await h.click(h.button('ask for a revision'));
    expect(await (await h.field('What to revise')).getAttribute('value')).toBe('Name each bath and its minutes.');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Ask for it'));
    await h.text('is asked to revise it.');
    expect((await work()).entry.state).toBe('revision asked');
  });

  it('is talked about, and both hear of it', async () => {
    await s.go(`${base}/study/${itemId}`);
    await s.text('Name each bath and its minutes.');
    await s.click(s.css('details.talk summary'));
    await s.type(s.field('Say something about this work'), 'Does the rinse count as a bath?');
    await s.click(s.button('Say it'));
    await s.text('Does the rinse count as a bath?', 'p');
    await h.go(`${base}/marking/${itemId}/${enrolmentId}`);
    await h.click(h.button('conversation, 1, 1 new'));
    await h.text('Does the rinse count as a bath?', 'p');
    await h.type(h.field('Say something about this work'), 'It does.', Key.chord(Key.CONTROL, Key.ENTER));
    await h.text('It does.', 'p');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('is answered note by note on a phone, and handed in once more', async () => {
    await s.phone();
    await s.go(`${base}/study/${itemId}`);
    await s.text('It does.', 'p');
    await s.text('2 of 2 notes not answered yet');
    await s.click(s.css('.asked li:nth-child(1) .tick input'));
    await s.text('1 of 2 notes not answered yet');
    await s.click(s.css('.asked li:nth-child(2) .tick input'));
    await s.text('Every note is answered.');
    const editor = await s.css('.answer .ProseMirror');
    await s.click(editor);
    await s.type(editor, Key.chord(Key.CONTROL, Key.END), ' Three baths of five minutes each.');
    expect(await s.isAccessible()).toEqual([]);
    await s.click(student.driver.findElement(By.xpath('//form//button[normalize-space(.)="Hand in"]')));
    await s.text('attempt 2');
    expect(await s.consoleErrors()).toEqual([]);
  });

  it('stands beside what it was, with what changed and what was answered', async () => {
    await h.go(`${base}/marking/${itemId}/${enrolmentId}`);
    await h.click(h.button('changes since attempt 1'));
    await h.text('Three baths of five minutes each.', 'ins');
    await h.text('Paragraphs that differ from attempt 1:');
    expect(await h.isAccessible()).toEqual([]);
    expect((await work()).notes.map((n) => n.isAnswered)).toEqual([true, true]);
    expect((await work()).entry.state).toBe('waits');
    expect(await h.consoleErrors()).toEqual([]);
  });
});

describe('those who have handed in nothing', () => {
  it('are written to from the stack, chosen once more before anything is sent', async () => {
    const { units } = await h.api<{ units: { items: { id: string; title: string }[] }[] }>('GET', `${base}/plan`);
    const photograph = units.flatMap((u) => u.items).find((i) => i.title === 'The lock, photographed')?.id;
    const { entries } = await h.api<{ entries: { state: string }[] }>('GET', `${base}/marking/${photograph}`);
    const missing = entries.filter((e) => e.state === 'missing').length;
    expect(missing).toBeGreaterThan(2);
    await h.go(`${base}/marking/${photograph}`);
    await h.click(h.button('filter'));
    await h.click(h.button('missing'));
    await h.click(h.button('Write to these'));
    await h.text(`To: ${missing} of`);
    expect(await (await h.field('Subject')).getAttribute('value')).toBe('The lock, photographed');
    await h.click(h.css('.names input:checked'));
    await h.text(`To: ${missing - 1} of`);
    await h.type(h.field('Message'), 'Is something in the way of your picture?');
    await h.click(h.button(`Send to ${missing - 1}`));
    await h.text(`Sent to ${missing - 1}`);
    expect(await h.consoleErrors()).toEqual([]);
  });
});
