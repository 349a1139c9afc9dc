// Pictures of the main views, from the demo at its fixed clock: node scripts/shots.mjs ADDRESS FOLDER [view …]
import { mkdirSync, writeFileSync } from 'node:fs';
import { By, until } from 'selenium-webdriver';
import { openBrowser, setSize } from './browser.mjs';

const [, , address = 'http://localhost:3000', folder = 'docs/screenshots', ...wanted] = process.argv;
mkdirSync(folder, { recursive: true });
const driver = await openBrowser();
const call = (method, path, body) =>
  driver.executeAsyncScript(
    `const done = arguments[3]; fetch('/api' + arguments[1], { method: arguments[0], headers: arguments[2] ? { 'content-type': 'application/json' } : {}, body: arguments[2] ?? undefined }).then((r) => r.json()).then(done, (e) => done({ error: String(e) }));`,
    method,
    path,
    body === undefined ? null : JSON.stringify(body),
  );
const see = async (selector) => driver.wait(until.elementLocated(By.css(selector)), 15_000);
// What is folded away may still be waiting to be opened, and is not looked for.
const settled = async () =>
  driver.wait(() => driver.executeScript("return [...document.querySelectorAll('.skeleton')].every((e) => !e.checkVisibility())"), 15_000);
async function as(name) {
  await driver.get(`${address}/sign-in`);
  await see('form');
  await call('POST', '/sign-out');
  const me = await call('GET', '/me');
  const person = me.demoPeople.find((p) => p.givenName === name) ?? me.demoPeople.find((p) => p.what.startsWith('studies'));
  await call('POST', '/demo/sign-in', { personId: person.id });
}
const own = async (code, run) => (await call('GET', '/me')).courses.find((c) => c.code === code && (run === undefined || c.run === run));
async function take(name) {
  if (wanted.length > 0 && !wanted.includes(name)) return;
  await settled();
  await driver.executeScript('return document.fonts.ready');
  writeFileSync(`${folder}/${name}.png`, Buffer.from(await driver.takeScreenshot(), 'base64'));
  process.stdout.write(`${name}\n`);
}
const wants = (...names) => wanted.length === 0 || names.some((n) => wanted.includes(n));

try {
  await as('Ines');
  const course = await own('HOR-110', 'autumn');
  const base = `${address}/courses/${course.id}`;
  const plan = await call('GET', `/courses/${course.id}/plan`);
  const item = (title) => plan.units.flatMap((u) => u.items).find((i) => i.title === title);
  const report = item('Condition report');
  if (wants('desk')) {
    await driver.get(address);
    await see('.slip');
    await take('desk');
  }
  if (wants('plan')) {
    await driver.get(`${base}/plan?item=${item('Reading a timing trace').id}&field=opening`);
    await see('details.more[open]');
    await driver.executeScript("document.querySelector('.row.on').scrollIntoView({ block: 'center' })");
    await take('plan');
  }
  const quiz = (title) => plan.units.flatMap((u) => u.items).find((i) => i.kind === 'quiz' && i.title === title).id;
  if (wants('quiz')) {
    await driver.get(`${base}/quizzes/${quiz('Beat and amplitude')}`);
    await see('.paper .q');
    const shown = await driver.findElements(By.css('.q .shown'));
    await shown[1].click();
    await see('.q.on .ProseMirror');
    await driver.executeScript('window.scrollTo(0, 0)');
    await take('quiz');
  }
  if (wants('figures')) {
    await driver.get(`${base}/quizzes/${quiz('Trains and locks')}/figures`);
    await see('svg .dot');
    await take('figures');
  }
  if (wants('paper')) {
    await driver.get(`${base}/quizzes/${quiz('Names of the parts')}/paper`);
    await see('.doubt img');
    await driver.wait(
      () => driver.executeScript("return [...document.querySelectorAll('.doubt img')].slice(0, 4).every((i) => i.naturalWidth > 0)"),
      15_000,
    );
    await take('paper');
  }
  if (wants('bank')) {
    await driver.get(`${base}/bank`);
    await see('.rows tbody tr');
    await take('bank');
  }
  if (wants('page')) {
    await driver.get(`${base}/items/${item('Counting a train').id}`);
    await see('.block-node .katex');
    await driver.executeScript("document.querySelector('.block-node').scrollIntoView({ block: 'center' })");
    await take('page');
  }
  if (wants('assignment')) {
    await driver.get(`${base}/items/${report.id}`);
    await see('.ProseMirror');
    await take('assignment');
  }
  const stack = await call('GET', `/courses/${course.id}/marking/${report.id}`);
  const noted = stack.entries.find((e) => e.notes > 1) ?? stack.entries.find((e) => e.state === 'waits');
  if (wants('stack')) {
    await driver.get(`${base}/stacks/${item('Name the fault').id}`);
    await see('section[aria-label="Alike answers"] .line');
    await driver.executeScript('window.scrollTo(0, 60)');
    await take('stack');
  }
  if (wants('marking')) {
    await driver.get(`${base}/marking/${report.id}/${noted.enrolmentId}`);
    await see('.note-number, .sheet-paper');
    await take('marking');
  }
  if (wants('gradebook')) {
    await driver.get(`${base}/gradebook`);
    const cell = await see('[role=row][aria-rowindex="4"] .subtotal');
    const subs = await driver.findElements(By.css('[role=row][aria-rowindex="4"] .subtotal'));
    await driver.executeScript(
      "arguments[0].scrollIntoView({ inline: 'center', block: 'nearest' }); arguments[0].dispatchEvent(new MouseEvent('mousedown', { bubbles: true }))",
      subs[1] ?? cell,
    );
    await see('.lines');
    await take('gradebook');
  }
  if (wants('finals')) {
    const last = await own('HOR-110', 'spring');
    await driver.get(`${address}/courses/${last.id}/finals`);
    const corrected = await see('.list tbody tr:nth-child(3) button');
    await corrected.click();
    await see('.inspector ol');
    await driver.executeScript('window.scrollTo(0, 60)');
    await take('finals');
  }
  if (wants('policy')) {
    await driver.get(`${base}/policy`);
    const weights = await driver.wait(async () => {
      const f = await driver.findElements(By.css('input[aria-label^="Weight of"]'));
      return f.length > 0 ? f : null;
    }, 15_000);
    for (const [n, value] of [
      [1, '60'],
      [2, '20'],
    ])
      await driver.executeScript(
        "arguments[0].value = arguments[1]; arguments[0].dispatchEvent(new Event('input', { bubbles: true })); arguments[0].dispatchEvent(new Event('change', { bubbles: true }))",
        weights[n],
        value,
      );
    await see('.slope');
    await driver.wait(async () => (await driver.findElements(By.css('s'))).length >= 2, 10_000);
    await take('policy');
  }
  if (wants('progress')) {
    await driver.get(`${base}/progress`);
    await see('.words-list li');
    await see('#visits-sheet svg');
    await take('progress');
  }
  if (wants('roster')) {
    await driver.get(`${base}/roster`);
    await see('table');
    await take('roster');
  }
  if (wants('this-week', 'grades', 'taking', 'phone-returned')) {
    await as('A student');
    const mine = (await call('GET', '/me')).courses[0];
    if (wants('this-week')) {
      await driver.get(`${address}/this-week`);
      await see('.entry');
      await take('this-week');
    }
    const week = await call('GET', '/this-week');
    const back = week.back.find((e) => e.title === 'Escapement drawing') ?? week.back[0];
    if (wants('grades')) {
      await driver.get(`${address}/courses/${mine.id}/grades`);
      await see('.total');
      await take('grades');
    }
    if (wants('taking')) {
      const studied = (await call('GET', `/courses/${mine.id}/own/outline`)).units.flatMap((u) => u.entries);
      await driver.get(`${address}/courses/${mine.id}/study/${studied.find((i) => i.title === 'Hairspring check').id}`);
      await (await see('.begin .go')).click();
      await see('.taking .choice');
      await take('taking');
    }
    await setSize(driver, 390, 844);
    if (wants('phone-returned') && back) {
      await driver.get(`${address}/courses/${mine.id}/study/${back.id}`);
      await see('.returned canvas');
      // A page of a PDF is white until it is drawn.
      await driver.wait(
        () =>
          driver.executeScript(
            "const c = document.querySelector('.returned canvas'); return c.width > 0 && c.getContext('2d').getImageData(0, 0, c.width, c.height).data.some((v, n) => n % 4 === 0 && v > 0 && v < 200)",
          ),
        15_000,
      );
      await take('phone-returned');
    }
  }
} finally {
  const errors = (await driver.manage().logs().get('browser')).map((e) => e.message);
  if (errors.length > 0) process.stdout.write(`Console errors:\n${errors.join('\n')}\n`);
  await driver.quit();
}
