import { serve, readConfig } from '@rosemary/server';
import { By, until, type WebDriver } from 'selenium-webdriver';
// @ts-expect-error the start scripts are plain modules
import { openBrowser } from '../../scripts/browser.mjs';

/** What a person waits for: the Desk on a cold cache, and the next work while marking. */
const running = await serve(readConfig(process.env));
const driver = (await openBrowser()) as WebDriver;
try {
  await driver.get(`${running.url}/sign-in`);
  await driver.wait(until.elementLocated(By.css('.demo li')), 10_000);
  await driver.executeAsyncScript(
    "const done = arguments[0]; fetch('/api/me').then((r) => r.json()).then((me) => fetch('/api/demo/sign-in', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ personId: me.demoPeople.find((p) => p.givenName === 'Ines').id }) })).then(() => done())",
  );
  await driver.get('about:blank');
  await (driver as WebDriver & { sendDevToolsCommand: (name: string, values: object) => Promise<void> }).sendDevToolsCommand(
    'Network.clearBrowserCache',
    {},
  );
  await driver.get(running.url);
  await driver.wait(until.elementLocated(By.css('.slip')), 10_000);
  const cold = await driver.executeScript<{ ms: number; bytes: number; document: number }>(
    "const e = performance.getEntriesByType('resource'); return { ms: performance.now(), bytes: e.reduce((s, r) => s + r.transferSize, 0) + performance.getEntriesByType('navigation')[0].transferSize, document: performance.getEntriesByType('navigation')[0].transferSize }",
  );
  process.stdout.write(
    `Desk on a cold cache: ${(cold.bytes / 1024).toFixed(0)} kB over the wire (floor: the empty document, ${(cold.document / 1024).toFixed(1)} kB), its slips readable at most ${cold.ms.toFixed(0)} ms after the request, looked at by a test driver\n`,
  );
  const open = await driver.executeAsyncScript<string>(
    "const done = arguments[0]; (async () => { const me = await (await fetch('/api/me')).json(); for (const c of me.courses) { const l = await (await fetch('/api/courses/' + c.id + '/marking')).json(); const i = l.items.find((x) => x.title === 'Condition report' && x.waits > 0); if (i) return '/courses/' + c.id + '/marking/' + i.id; } })().then(done)",
  );
  await driver.get(`${running.url}${open}`);
  await driver.wait(until.elementLocated(By.css('.paper-work .ProseMirror')), 10_000);
  const times = await driver.executeAsyncScript<number[]>(`const done = arguments[0]; (async () => {
    const times = []; const name = () => document.querySelector('.hd h1').textContent;
    for (let n = 0; n < 9; n += 1) {
      await new Promise((r) => setTimeout(r, 400));
      const before = name(); const at = performance.now();
      document.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }));
      while (name() === before || !document.querySelector('.paper-work .sheet-paper, .paper-work .pdf')) await new Promise((r) => requestAnimationFrame(r));
      times.push(performance.now() - at);
    }
    return times; })().then(done)`);
  const sorted = [...times].sort((a, b) => a - b);
  process.stdout.write(
    `marking, from “next” to the next work readable: median ${(sorted[4] ?? 0).toFixed(0)} ms, slowest ${(sorted[8] ?? 0).toFixed(0)} ms of 9, loaded ahead; floor: one frame, 16.7 ms\n`,
  );
} finally {
  await driver.quit();
  await running.stop();
}
