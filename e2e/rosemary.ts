import { spawnSync, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AxeBuilder } from '@axe-core/webdriverjs';
import pg from 'pg';
import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';
// @ts-expect-error the start scripts are plain modules
import { openBrowser, setSize } from '../scripts/browser.mjs';
// @ts-expect-error the start scripts are plain modules
import { freePort } from '../scripts/database.mjs';
// @ts-expect-error the start scripts are plain modules
import { DEMO_CLOCK, layOutTemplate } from '../scripts/demoTemplate.mjs';
// @ts-expect-error the start scripts are plain modules
import { spawnServer } from '../scripts/serverProcess.mjs';

const root = new URL('..', import.meta.url).pathname;
export const CLOCK = DEMO_CLOCK as string;

export interface Rosemary {
  readonly url: string;
  readonly driver: WebDriver;
  readonly output: () => string;
  readonly query: (sql: string, values?: unknown[]) => Promise<pg.QueryResult>;
  readonly restart: () => Promise<void>;
  readonly kill: () => void;
  /** A second person’s browser at the same school. */
  readonly second: () => Promise<Rosemary>;
  /** A folder for files that are sent, gone with everything else. */
  readonly makeFolder: () => string;
  readonly close: () => Promise<void>;
}

async function waitFor(url: string): Promise<void> {
  const end = Date.now() + 30_000;
  for (;;) {
    try {
      if ((await fetch(`${url}/api/health`)).ok) return;
    } catch {
      /* not there yet */
    }
    if (Date.now() > end) throw new Error(`No server at ${url}`);
    await new Promise((done) => {
      setTimeout(done, 50);
    });
  }
}

/** A whole Rosemary for one journey: its own database, its own server process, its own browser. */
export async function startRosemary(name: string, isDemo: boolean): Promise<Rosemary> {
  // What was begun is ended in the opposite order: at the end of the journey, or at once where a step of beginning fails.
  const ends: (() => unknown)[] = [];
  const close = async (): Promise<void> => {
    const failures: unknown[] = [];
    for (const end of ends.splice(0).reverse())
      try {
        await end();
      } catch (error) {
        // What is left is ended all the same.
        failures.push(error);
      }
    if (failures.length > 0) throw new AggregateError(failures, 'Not all that was begun could be ended.');
  };
  try {
    return await begin(name, isDemo, ends, close);
  } catch (error) {
    await close();
    throw error;
  }
}

async function begin(name: string, isDemo: boolean, ends: (() => unknown)[], close: () => Promise<void>): Promise<Rosemary> {
  // A port that nobody has: two runs on one machine must not meet in each other's school.
  const port = (await freePort()) as number;
  const { ROSEMARY_SUPER_URL: superUrl = '', ROSEMARY_OWNER_URL: owner = '', ROSEMARY_DATABASE_URL: app = '' } = process.env;
  const database = `journey_${name}`;
  const admin = new pg.Client({ connectionString: superUrl });
  await admin.connect();
  ends.push(() => admin.end());
  const drop = (): Promise<unknown> => admin.query(`drop database if exists ${database} with (force)`);
  await drop();
  ends.push(drop);
  const template = isDemo ? ((await layOutTemplate(process.env)) as string) : 'template1';
  await admin.query(`create database ${database} owner rosemary_owner template ${template}`);
  await admin.query(`grant create on database ${database} to rosemary_app`);
  const named = (text: string): string => text.replace(/\/rosemary$/, `/${database}`);
  const env = {
    ...process.env,
    NODE_ENV: 'production',
    PORT: String(port),
    ROSEMARY_DATABASE_URL: named(app),
    ROSEMARY_OWNER_URL: named(owner),
    ROSEMARY_CLOCK: CLOCK,
    ...(isDemo ? {} : { ROSEMARY_DEMO: '0' }),
  };
  const prepared = spawnSync(process.execPath, [`${root}dist/server/prepare.mjs`], { env, encoding: 'utf8' });
  if (prepared.status !== 0) throw new Error(prepared.stderr);
  const url = `http://127.0.0.1:${port}`;
  let server: ChildProcess | null = null;
  const start = async (): Promise<void> => {
    server = spawnServer(env) as ChildProcess;
    await waitFor(url);
  };
  ends.push(async () => {
    // A server that was killed during the journey has ended already.
    if (server === null || server.exitCode !== null || server.signalCode !== null) return;
    const ended = once(server, 'exit');
    server.kill('SIGTERM');
    await ended;
  });
  await start();
  const pool = new pg.Pool({ connectionString: named(superUrl.replace(/\/postgres$/, '/rosemary')), max: 2 });
  ends.push(() => pool.end());
  // The database is dropped under them at the end of a journey.
  pool.on('error', () => undefined);
  admin.on('error', () => undefined);
  const openOne = async (): Promise<WebDriver> => {
    const one = (await openBrowser()) as WebDriver;
    ends.push(() => one.quit());
    return one;
  };
  const driver = await openOne();
  const whole: Rosemary = {
    url,
    driver,
    output: () => prepared.stdout,
    query: (sql, values = []) => pool.query(sql, values),
    kill: () => {
      server?.kill('SIGKILL');
    },
    restart: start,
    second: async () => ({ ...whole, driver: await openOne() }),
    makeFolder: () => {
      const folder = mkdtempSync(join(tmpdir(), 'rosemary-e2e-'));
      ends.push(() => {
        rmSync(folder, { recursive: true, force: true });
      });
      return folder;
    },
    close,
  };
  return whole;
}

// Long, for a machine that does much else at the same time; whatever comes sooner is taken sooner.
const WAIT = 60_000;

/** An element on its way, that can be looked for once more: a page that is drawn afresh between finding and clicking has another. */
interface Found extends Promise<WebElement> {
  readonly again?: () => Found;
}
const finding = (look: () => Promise<WebElement>): Found => Object.assign(look(), { again: () => finding(look) });

/** Whether an element, brought into view, is where it was two pictures of the screen before. */
const IS_STILL = `const [element, done] = arguments; element.scrollIntoView({ block: 'center', inline: 'nearest' });
const place = () => { const { x, y, width, height } = element.getBoundingClientRect(); return [x, y, width, height].join(); };
const before = place(); requestAnimationFrame(() => requestAnimationFrame(() => done(place() === before)));`;

/** A tick, a mark of a choice and a list are pressed where they are drawn: their own input lies over that, unseen. */
const WHERE_PRESSED = `const [element] = arguments; if (element.tagName !== 'INPUT') return element;
return element.closest('.v-selection-control__input') ?? element.closest('.choice-field')?.querySelector('.v-field') ?? element;`;

/** Hands and eyes: every wait is for a condition, never for time. */
export function hands({ driver, url }: Rosemary) {
  const css = (selector: string): Found => finding(() => driver.wait(until.elementLocated(By.css(selector)), WAIT, `no ${selector}`));
  const text = (words: string, within = '*'): Promise<WebElement> =>
    driver
      .wait(
        until.elementLocated(
          By.xpath(
            `//${within}[not(self::script) and contains(normalize-space(.), ${JSON.stringify(words)}) and not(.//${within}[contains(normalize-space(.), ${JSON.stringify(words)})])]`,
          ),
        ),
        WAIT,
        `no “${words}”`,
      )
      .catch(async (error: unknown) => {
        // What stood there instead says more than how long was waited.
        const page = await driver.executeScript<string>('return location.pathname + "\\n" + document.body.innerText');
        throw new Error(`${String(error)}\nThe page: ${page.slice(0, 1500)}`, { cause: error });
      });
  const field = (label: string): Found =>
    finding(() =>
      driver.wait(
        until.elementLocated(
          By.xpath(
            `//*[@aria-label=${JSON.stringify(label)}] | //label[contains(normalize-space(.), ${JSON.stringify(label)})]//*[self::input or self::select or self::textarea] | //*[@id = //label[contains(normalize-space(.), ${JSON.stringify(label)})]/@for]`,
          ),
        ),
        WAIT,
        `no field ${label}`,
      ),
    );
  const button = (words: string): Found =>
    finding(() =>
      driver.wait(
        until.elementLocated(
          By.xpath(`//*[self::button or self::a or @role="button"][contains(normalize-space(.), ${JSON.stringify(words)})]`),
        ),
        WAIT,
        `no button ${words}`,
      ),
    );
  async function click(element: Found | WebElement): Promise<void> {
    let found = await element;
    const lookAgain = 'again' in element ? element.again : undefined;
    await driver.wait(
      async () => {
        try {
          if (!(await found.isEnabled())) return false;
          found = await driver.executeScript<WebElement>(WHERE_PRESSED, found);
          if (!(await found.isDisplayed())) return false;
          // A page that is still being laid out would have it elsewhere by the time the click arrives.
          if (!(await driver.executeAsyncScript<boolean>(IS_STILL, found))) return false;
          await found.click();
          return true;
        } catch (error) {
          if (/intercepted|not interactable/.test(String(error))) return false;
          if (!/stale element/.test(String(error)) || lookAgain === undefined) throw error;
          found = await lookAgain();
          return false;
        }
      },
      WAIT,
      'could not be clicked',
    );
  }
  async function type(element: Promise<WebElement> | WebElement, ...keys: string[]): Promise<void> {
    const found = await element;
    await driver.wait(until.elementIsEnabled(found), WAIT);
    await found.sendKeys(...keys);
  }
  async function fill(element: Promise<WebElement> | WebElement, words: string): Promise<void> {
    const found = await element;
    await found.sendKeys(Key.chord(Key.CONTROL, 'a'), words);
  }
  /** Opens a list or a menu and chooses in it, by its value, by its words or by its place. */
  async function choose(element: Found | WebElement, wanted: string | number): Promise<void> {
    await click(element);
    const said = JSON.stringify(wanted);
    const which = typeof wanted === 'number' ? String(wanted + 1) : `@data-value=${said} or normalize-space(.)=${said}`;
    const line = `(//*[contains(@class, "v-overlay--active")]//*[@role="option" or @role="menuitem"])[${which}]`;
    await click(finding(() => driver.wait(until.elementLocated(By.xpath(line)), WAIT, `nothing to choose called ${wanted}`)));
    await gone('.v-overlay--active:is(.v-menu) [role="option"], .v-overlay--active [role="menuitem"]');
  }
  /** Sets a value as the browser's own picker would; of a list it is chosen. */
  async function set(element: Found | Promise<WebElement> | WebElement, value: string): Promise<void> {
    const IS_LIST = "return arguments[0].closest('.choice-field') !== null || arguments[0].classList.contains('action-menu')";
    if (await driver.executeScript<boolean>(IS_LIST, await element)) {
      await choose(element as Found, value);
      return;
    }
    await driver.executeScript(
      "arguments[0].value = arguments[1]; arguments[0].dispatchEvent(new Event('input', { bubbles: true })); arguments[0].dispatchEvent(new Event('change', { bubbles: true }))",
      await element,
      value,
    );
  }
  const gone = (selector: string): Promise<boolean> =>
    driver.wait(async () => (await driver.findElements(By.css(selector))).length === 0, WAIT, `${selector} stayed`);
  const eventually = (what: () => Promise<boolean>, message: string): Promise<boolean> => driver.wait(what, WAIT, message);
  const has = async (words: string): Promise<boolean> =>
    (await driver.executeScript<string>('return document.body.innerText')).includes(words);
  const go = async (path: string): Promise<void> => {
    await driver.get(`${url}${path}`);
  };
  const api = <T>(method: string, path: string, body?: unknown): Promise<T> =>
    driver.executeAsyncScript<T>(
      'const done = arguments[3]; fetch("/api" + arguments[1], { method: arguments[0], headers: arguments[2] ? { "content-type": "application/json" } : {}, body: arguments[2] || undefined }).then((r) => r.json()).then(done, (e) => done({ error: String(e) }))',
      method,
      path,
      body === undefined ? null : JSON.stringify(body),
    );
  async function signInDemo(name: string): Promise<void> {
    await go('/sign-in');
    await api('POST', '/sign-out');
    await go('/sign-in');
    await click(button(name));
    await css('header.bar');
  }
  async function signOut(): Promise<void> {
    await click(css('.who'));
    await click(button('Sign out'));
    await css('form');
  }
  async function selectWords(selector: string, words: string): Promise<void> {
    await css(selector);
    await driver.executeScript(
      `
      const walker = document.createTreeWalker(document.querySelector(arguments[0]), NodeFilter.SHOW_TEXT);
      for (let node = walker.nextNode(); node; node = walker.nextNode()) { const at = node.textContent.indexOf(arguments[1]); if (at < 0) continue;
        const range = document.createRange(); range.setStart(node, at); range.setEnd(node, at + arguments[1].length); const s = getSelection(); s.removeAllRanges(); s.addRange(range); return; }
      throw new Error('not found: ' + arguments[1]);`,
      selector,
      words,
    );
  }
  /** Axe finds nothing on this view; what it does find is named. */
  async function isAccessible(): Promise<string[]> {
    await gone('.skeleton');
    // What fades in is not yet in its own colours.
    await driver.wait(
      () => driver.executeScript<boolean>("return document.getAnimations().every((a) => a.playState !== 'running')"),
      WAIT,
      'something goes on moving',
    );
    await gone('[class*="-enter-active"], [class*="-leave-active"]');
    const found = await new AxeBuilder(driver)
      // Only what is wrong is written out, and in the page itself: it has no frames of other origins, and both cost seconds a view.
      .setLegacyMode(true)
      .options({ resultTypes: ['violations'], runOnly: { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] } })
      .analyze();
    return found.violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .slice(0, 3)
          .map((n) => n.target.join(' '))
          .join(' | ')}`,
    );
  }
  /** What the page itself did wrong: refusals and a server removed on purpose are not that. */
  async function consoleErrors(): Promise<string[]> {
    return (await driver.manage().logs().get('browser'))
      .map((e) => e.message)
      .filter(
        (m) =>
          !/status of 4\d\d|status of 503|net::ERR_(CONNECTION_\w+|SOCKET_\w+|INCOMPLETE_CHUNKED_ENCODING|EMPTY_RESPONSE|NETWORK_\w+)/.test(
            m,
          ),
      );
  }
  /** Takes hold of an element with the mouse, goes to another in steps as a hand does, and lets go. */
  async function drag(from: Promise<WebElement> | WebElement, to: Promise<WebElement> | WebElement, place = { x: 0, y: 0 }): Promise<void> {
    const [held, target] = [await from, await to];
    await driver.executeScript('arguments[0].scrollIntoView({ block: "center", inline: "nearest" })', held);
    // Places in the window, taken once: what is under the hand gives way while it moves.
    const middle = async (element: WebElement): Promise<{ x: number; y: number }> => {
      const [x, y] = await driver.executeScript<[number, number]>(
        'const r = arguments[0].getBoundingClientRect(); return [r.left + r.width / 2, r.top + r.height / 2]',
        element,
      );
      return { x: Math.round(x), y: Math.round(y) };
    };
    const [start, aim] = [await middle(held), await middle(target)];
    const end = { x: aim.x + place.x, y: aim.y + place.y };
    const part = (n: number): { x: number; y: number; duration: number } => ({
      x: Math.round(start.x + ((end.x - start.x) * n) / 4),
      y: Math.round(start.y + ((end.y - start.y) * n) / 4),
      duration: 60,
    });
    await driver.actions().move(start).press().move(part(1)).move(part(2)).move(part(3)).move(part(4)).release().perform();
  }
  const press = (...keys: string[]): Promise<void> =>
    driver
      .actions()
      .sendKeys(...keys)
      .perform();
  /** The bytes of an address, fetched as the page would. */
  async function download(address: string): Promise<Buffer> {
    const bytes = await driver.executeAsyncScript<string>(
      "const done = arguments[1]; fetch(arguments[0]).then((r) => r.arrayBuffer()).then((b) => { let s = ''; for (const x of new Uint8Array(b)) s += String.fromCharCode(x); done(btoa(s)); })",
      address,
    );
    return Buffer.from(bytes, 'base64');
  }
  const phone = (): Promise<void> => setSize(driver, 390, 844) as Promise<void>;
  const shoot = async (path: string): Promise<void> => {
    writeFileSync(path, Buffer.from(await driver.takeScreenshot(), 'base64'));
  };
  return {
    css,
    text,
    field,
    button,
    click,
    type,
    fill,
    choose,
    set,
    gone,
    eventually,
    has,
    go,
    api,
    signInDemo,
    signOut,
    selectWords,
    isAccessible,
    consoleErrors,
    press,
    drag,
    phone,
    shoot,
    download,
  };
}
