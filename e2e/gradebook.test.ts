import { By, Key } from 'selenium-webdriver';
import { jest } from '@jest/globals';
import type { Driver } from 'selenium-webdriver/chrome.js';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** The grid by hand and by keys, with and without a connection. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let base = '';
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('gradebook', true);
  h = hands(rosemary);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  base = `/courses/${me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
});
afterAll(() => rosemary?.close());

const row = (n: number): string => `[role=row][aria-rowindex="${n + 1}"]`;
const cell = (n: number, column: number): string => `${row(n)} [role=gridcell][aria-colindex="${column + 1}"]`;
const textOf = async (selector: string): Promise<string> => (await h.css(selector)).getText();
const active = (): Promise<string | null> =>
  rosemary.driver.executeScript("return document.querySelector('[role=grid]').getAttribute('aria-activedescendant')");
const hold = (key: string, ...keys: string[]): Promise<void> =>
  rosemary.driver
    .actions()
    .keyDown(key)
    .sendKeys(...keys)
    .keyUp(key)
    .perform();
const setOffline = (isOffline: boolean): Promise<void> =>
  (rosemary.driver as Driver).setNetworkConditions({
    offline: isOffline,
    latency: 0,
    download_throughput: -1,
    upload_throughput: -1,
  } as never) as unknown as Promise<void>;
interface Book {
  readonly columns: readonly { readonly title: string }[];
  readonly rows: readonly { readonly familyName: string; readonly cells: readonly (0 | readonly unknown[])[] }[];
}

describe('the grid of the gradebook', () => {
  it('goes from cell to cell and to its edges by keys, and shows what is chosen', async () => {
    await h.go(`${base}/gradebook`);
    await h.click(h.css(cell(1, 1)));
    expect(await active()).toBe('cell-0-0');
    await h.press(Key.ARROW_DOWN, Key.ARROW_RIGHT);
    expect(await active()).toBe('cell-1-1');
    await hold(Key.CONTROL, Key.END);
    await h.css(`${row(48)} .chosen`);
    const [chosen, box] = await rosemary.driver.executeScript<[DOMRect, DOMRect]>(
      "return ['.chosen', '[role=grid]'].map((s) => document.querySelector(s).getBoundingClientRect().toJSON())",
    );
    expect(chosen.bottom).toBeLessThanOrEqual(box.bottom);
    await hold(Key.CONTROL, Key.HOME);
    expect(await active()).toBe('cell-0-0');
    await h.press(Key.END, Key.ARROW_LEFT, Key.ARROW_LEFT);
    const isCovered = await rosemary.driver.executeScript<boolean>(
      "const r = document.querySelector('.chosen').getBoundingClientRect(); return document.elementFromPoint((r.left + r.right) / 2, (r.top + r.bottom) / 2).closest('.chosen') === null",
    );
    expect(isCovered).toBe(false);
  });

  it('draws out a block and gives it to a spreadsheet', async () => {
    await hold(Key.CONTROL, Key.HOME);
    await h.click(h.css(cell(2, 1)));
    await hold(Key.SHIFT, Key.ARROW_DOWN, Key.ARROW_RIGHT);
    expect(await rosemary.driver.findElements(By.css('.cell.block'))).toHaveLength(4);
    const copied = await rosemary.driver.executeScript<string>(
      "const data = new DataTransfer(); document.querySelector('[role=grid]').dispatchEvent(new ClipboardEvent('copy', { clipboardData: data, bubbles: true, cancelable: true })); return data.getData('text/plain')",
    );
    expect(copied.split('\n').map((line) => line.split('\t').length)).toEqual([2, 2]);
    expect(await h.isAccessible()).toEqual([]);
  });

  it('says why what was typed cannot be read, and keeps it until it is mended', async () => {
    await h.click(h.css(cell(2, 2)));
    await h.press('1', 'x', Key.ENTER);
    await h.text('“1x” is not a number of points.');
    await h.press(Key.BACK_SPACE, '2', Key.ENTER);
    await h.text(': 12.');
    expect(await textOf(cell(2, 2))).toBe('12');
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await textOf(cell(2, 2))) !== '12', 'not undone');
  });

  it('lets Tab leave it after Esc', async () => {
    await h.click(h.css(cell(1, 1)));
    await h.press(Key.ESCAPE, Key.TAB);
    expect(await rosemary.driver.executeScript("return document.activeElement.closest('[role=grid]') === null")).toBe(true);
  });

  it('keeps what is typed without a connection, says so in the bar, and sends it from another page when it is back', async () => {
    await h.go(`${base}/gradebook`);
    await h.click(h.css(cell(3, 1)));
    await setOffline(true);
    await h.press('1', '3', '.', '5', Key.ENTER);
    await h.text('Not saved yet: 1');
    expect(await textOf(cell(3, 1))).toBe('13.5');
    await h.click(h.button('Not saved yet'));
    await h.text('There is no connection. It is sent when the server answers.');
    expect(await h.isAccessible()).toEqual([]);
    await h.press(Key.ESCAPE);
    await setOffline(false);
    await h.go(`${base}/roster`);
    await h.gone('.unsaved');
    const book = await h.api<Book>('GET', `${base}/gradebook`);
    expect(book.rows.some((r) => r.cells.some((c) => c !== 0 && c[1] === '13.5' && c[6] === 13_500))).toBe(true);
  });

  it('shows a draft of the policy again that was left before it was applied, and discards it when told', async () => {
    await h.go(`${base}/policy`);
    await h.set(h.field('Weight of Papers'), '41');
    await h.text('Not yet applied');
    await h.go(`${base}/roster`);
    await h.go(`${base}/policy`);
    await h.text('You left these changes before they were applied.');
    expect(await (await h.field('Weight of Papers')).getAttribute('value')).toContain('41');
    await h.click(h.button('Leave it'));
    await h.go(`${base}/policy`);
    await h.field('Weight of Papers');
    expect(await h.has('You left these changes')).toBe(false);
  });

  it('has no errors in the browser but those of the lost connection', async () => {
    expect((await h.consoleErrors()).filter((error) => !error.includes('ERR_INTERNET_DISCONNECTED'))).toEqual([]);
  });
});
