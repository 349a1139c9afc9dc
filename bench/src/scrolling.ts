import { makePool, readConfig, run, serve, withDb } from '@rosemary/server';
import { By, until, type WebDriver } from 'selenium-webdriver';
// @ts-expect-error the start scripts are plain modules
import { openBrowser } from '../../scripts/browser.mjs';
import { layOutLargeCourse } from './largeCourse.ts';

/** Frames while the gradebook of 2,000 students × 150 items is scrolled down and across, against a bare page of the same size. */
const STUDENTS = 2000;
const ITEMS = 150;
const SECONDS = 3;
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 4);
const { courseId, personId } = await withDb(pool, true, (db) => layOutLargeCourse(db, STUDENTS, ITEMS));
await withDb(pool, false, (db) => run(db, 'analyze'));
const running = await serve(readConfig(process.env));
const driver = (await openBrowser()) as WebDriver;

interface Frames {
  readonly perSecond: number;
  readonly worst: number;
  readonly drawn: number;
}
/** Moves a scroll box by so much in each frame, and counts the frames that the browser gets to show. */
const scroll = (selector: string, by: { readonly x: number; readonly y: number }): Promise<Frames> =>
  driver.executeAsyncScript(
    `const [selector, x, y, ms, done] = arguments;
    const box = document.querySelector(selector);
    let last = performance.now(), worst = 0, frames = 0, [dx, dy] = [x, y];
    const from = last;
    const step = (now) => {
      frames += 1; worst = Math.max(worst, now - last); last = now;
      if (now - from > ms) return done({ perSecond: frames / ((now - from) / 1000), worst, drawn: box.querySelectorAll('[role=gridcell]').length });
      if (x !== 0 && (box.scrollLeft + dx < 0 || box.scrollLeft + dx > box.scrollWidth - box.clientWidth)) dx = -dx;
      box.scrollTop += dy; box.scrollLeft += dx;
      requestAnimationFrame(step);
    };
    requestAnimationFrame(step);`,
    selector,
    by.x,
    by.y,
    SECONDS * 1000,
  );
const say = (what: string, frames: Frames, floor: Frames): void => {
  process.stdout.write(
    `${what}: ${frames.perSecond.toFixed(0)} frames a second, the longest ${frames.worst.toFixed(0)} ms, ${frames.drawn} cells drawn; ${(floor.perSecond / frames.perSecond).toFixed(2)} × a bare page (${floor.perSecond.toFixed(0)})\n`,
  );
};
try {
  await driver.get(`${running.url}/sign-in`);
  await driver.executeAsyncScript(
    "const [personId, done] = arguments; fetch('/api/demo/sign-in', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ personId }) }).then(done)",
    personId,
  );
  await driver.executeScript(
    'document.body.innerHTML = \'<div id=bare style="height:500px;width:900px;overflow:auto"><div style="width:13000px;height:54000px;background:linear-gradient(white,grey)"></div></div>\'',
  );
  const bare = { down: await scroll('#bare', { x: 0, y: 54 }), across: await scroll('#bare', { x: 40, y: 0 }) };
  const from = performance.now();
  await driver.get(`${running.url}/courses/${courseId}/gradebook`);
  await driver.wait(until.elementLocated(By.css('[role=gridcell]')), 60_000);
  process.stdout.write(
    `gradebook ${STUDENTS} × ${ITEMS}: first cells ${((performance.now() - from) / 1000).toFixed(1)} s after the address\n`,
  );
  await driver.wait(async () => (await driver.findElements(By.css('.skeleton'))).length === 0, 60_000);
  const memory = await driver.executeScript<number>('return performance.memory.usedJSHeapSize / 1048576');
  say('… scrolled down, two rows a frame', await scroll('[role=grid]', { x: 0, y: 54 }), bare.down);
  say('… scrolled across, half a column a frame', await scroll('[role=grid]', { x: 40, y: 0 }), bare.across);
  process.stdout.write(`… memory of its script: ${memory.toFixed(0)} MB\n`);
} finally {
  await driver.quit();
  await running.stop();
  await pool.end();
}
