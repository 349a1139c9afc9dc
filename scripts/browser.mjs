// Headless Chromium by selenium, as the journeys and the pictures use it.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Builder } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome.js';

const FLAGS = [
  '--headless=new',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-dev-shm-usage',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--no-first-run',
  '--lang=en-GB',
  // A tone in place of a microphone, and no question whether it may be heard.
  '--use-fake-device-for-media-stream',
  '--use-fake-ui-for-media-stream',
  '--force-device-scale-factor=1',
  '--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1 , EXCLUDE localhost',
];

export async function openBrowser(width = 1280, height = 800) {
  const profile = mkdtempSync(join(tmpdir(), 'rosemary-chromium-'));
  const options = new chrome.Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.addArguments(...FLAGS, `--user-data-dir=${profile}`, `--window-size=${width},${height + 140}`);
  options.setLoggingPrefs({ browser: 'SEVERE' });
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
    .build();
  await setSize(driver, width, height);
  const quit = driver.quit.bind(driver);
  // Its profile goes with it; the browser may still be letting go of a file or two.
  driver.quit = async () => {
    await quit();
    rmSync(profile, { recursive: true, force: true, maxRetries: 5, retryDelay: 100 });
  };
  return driver;
}

export async function setSize(driver, width, height) {
  await driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', { width, height, deviceScaleFactor: 1, mobile: false });
}
