import { jest } from '@jest/globals';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { By, Key, type WebDriver } from 'selenium-webdriver';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** An evening of marking: by keys alone, alike answers together, pictures and corrections, groups, two markers without names, paper. */
let teacher: Rosemary;
let other: Rosemary;
let h: ReturnType<typeof hands>;
let s: ReturnType<typeof hands>;
let base = '';
let timing = '';
interface Entry {
  readonly enrolmentId: string;
  readonly state: string;
  readonly familyName: string;
  readonly givenName: string;
  readonly section: string;
  readonly group: string;
  readonly members: readonly string[];
  readonly isVeiled: boolean;
  readonly matchPercent: number | null;
}
interface Plan {
  readonly units: readonly { readonly items: readonly { readonly id: string; readonly title: string }[] }[];
}
jest.setTimeout(300_000);
beforeAll(async () => {
  teacher = await startRosemary('evening', true);
  other = await teacher.second();
  h = hands(teacher);
  s = hands(other);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  base = `/courses/${me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
  timing = `/courses/${me.courses.find((c) => c.code === 'HOR-205')?.id ?? ''}`;
});
afterAll(() => teacher?.close());
const itemId = async (course: string, title: string): Promise<string> =>
  (await h.api<Plan>('GET', `${course}/plan`)).units.flatMap((u) => u.items).find((i) => i.title === title)?.id ?? '';
const stack = async (course: string, id: string): Promise<readonly Entry[]> =>
  (await h.api<{ entries: Entry[] }>('GET', `${course}/marking/${id}`)).entries;
const inPage = <T>(driver: WebDriver, script: string): Promise<T> => driver.executeScript<T>(script);
const within = (part: string, words: string) =>
  teacher.driver.findElement(
    By.xpath(
      `//section[@aria-label=${JSON.stringify(part)}]//*[self::button or self::a][contains(normalize-space(.), ${JSON.stringify(words)})]`,
    ),
  );

async function signInBy(email: string): Promise<void> {
  await s.go('/sign-in');
  await s.api('POST', '/sign-out');
  await s.api('POST', '/sign-in', { email, password: 'tallowmere-bench' });
}

describe('short answers', () => {
  it('twenty are marked by keys alone, two keys each', async () => {
    const id = await itemId(base, 'Name the fault');
    await h.go(`${base}/marking/${id}`);
    await h.css('#work-text');
    let keys = 0;
    for (let n = 0; n < 20; n += 1) {
      // As fast as the hand goes: what is pressed while the next work is on its way is kept for it.
      await h.press('8', Key.ENTER);
      keys += 2;
    }
    await h.eventually(
      async () => (await stack(base, id)).filter((e) => e.state === 'finished').length === 20,
      'not all twenty are finished',
    );
    expect(keys).toBe(40);
    expect(await h.isAccessible()).toEqual([]);
  });

  it('those that say the same are finished together, with an exception', async () => {
    const id = await itemId(base, 'Name the fault');
    const waited = (await stack(base, id)).filter((e) => e.state === 'waits').length;
    await h.go(`${base}/stacks/${id}`);
    await h.click(h.css('section[aria-label="Alike answers"] .line'));
    await h.css('.inner tbody input:checked');
    const ticked = await teacher.driver.findElements(By.css('.inner tbody input:checked'));
    await h.click(h.css('.inner tbody input:checked'));
    await h.type(h.field('Score of 10'), '9');
    await h.type(h.field('Feedback to each of them'), 'Yes: and say where you saw it.');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button(`Finish ${ticked.length - 1} together`));
    await h.text(`${ticked.length - 1} finished together`);
    expect((await stack(base, id)).filter((e) => e.state === 'waits')).toHaveLength(waited - ticked.length + 1);
  });

  it('what is finished stands in the gradebook at once, dotted, and with no student', async () => {
    await h.go(`${base}/gradebook`);
    await h.css('.unreleased');
    await s.signInDemo('Ondine Garrick');
    await s.go(`${base}/grades`);
    await s.text('Counted from released marks only.');
    const grades = await s.api<{ categories: { columns: { title: string; state: string }[] }[] }>('GET', `${base}/own/grades`);
    expect(grades.categories.flatMap((c) => c.columns).find((i) => i.title === 'Name the fault')?.state).toBe('none');
  });

  it('are released after a look at who sees what', async () => {
    await h.go(`${base}/marking/${await itemId(base, 'Name the fault')}`);
    await h.click(h.button('Release'));
    await h.text('Each student below sees this at once');
    await h.text('the score alone');
    expect(await h.isAccessible()).toEqual([]);
    const many = (await teacher.driver.findElements(By.css('.v-overlay tbody tr'))).length;
    await h.click(teacher.driver.findElement(By.css('.v-overlay .go')));
    await h.text(`${many} marks are released`);
  });
});

describe('notes of other kinds', () => {
  it('lie on an area drawn on a picture', async () => {
    const id = await itemId(base, 'The lock, photographed');
    await h.go(`${base}/marking/${id}`);
    const picture = await h.css('.frame img');
    await h.eventually(
      () => teacher.driver.executeScript<boolean>('return arguments[0].complete && arguments[0].naturalWidth > 0', picture),
      'no picture',
    );
    const [x = 0, y = 0, w = 0, hgt = 0] = await teacher.driver.executeScript<number[]>(
      "const r = document.querySelector('.frame').getBoundingClientRect(); return [r.left, r.top, r.width, r.height].map(Math.round)",
    );
    await teacher.driver
      .actions()
      .move({ x: x + Math.round(w * 0.3), y: y + Math.round(hgt * 0.1) })
      .press()
      .move({ x: x + Math.round(w * 0.5), y: y + Math.round(hgt * 0.3) })
      .move({ x: x + Math.round(w * 0.6), y: y + Math.round(hgt * 0.4) })
      .release()
      .perform();
    await h.type(h.css('textarea[aria-label="Note"]'), 'The tooth is past the corner here.', Key.ENTER);
    await h.css('.frame button.area');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('propose other words, and the work stays as it was handed in', async () => {
    const id = await itemId(base, 'Condition report');
    const work = (await stack(base, id)).find((e) => e.state === 'waits');
    await h.go(`${base}/marking/${id}/${work?.enrolmentId}`);
    await h.css('#work-text');
    const word = await inPage<string>(teacher.driver, "return document.querySelector('#work-text p').textContent.split(' ')[1]");
    await h.selectWords('#work-text p', word);
    await h.press('c');
    await h.fill(h.field('Rather these words; empty strikes them'), 'watch');
    await h.press(Key.ENTER);
    await h.text('watch', 'ins');
    await h.text('Rather “watch”.');
    await h.click(h.button('1 note'));
    await h.css('ol[aria-label="All notes"]');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('have their words selected and noted by keys alone', async () => {
    const id = await itemId(base, 'Condition report');
    const [, work] = (await stack(base, id)).filter((e) => e.state === 'waits');
    await h.go(`${base}/marking/${id}/${work?.enrolmentId}`);
    await h.css('#work-text');
    await h.css('section[aria-label="Mark"]');
    await h.gone('.skeleton');
    const { driver } = teacher;
    await driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_RIGHT, Key.ARROW_RIGHT, Key.ARROW_RIGHT).keyUp(Key.SHIFT).perform();
    const selected = await inPage<string>(driver, 'return document.getSelection().toString().trim()');
    const whole = await inPage<string>(driver, "return document.querySelector('#work-text').textContent");
    expect(selected.split(' ').length).toBeGreaterThan(1);
    expect(whole).toContain(selected);
    await driver.actions().keyDown(Key.SHIFT).keyDown(Key.ALT).sendKeys(Key.ARROW_RIGHT).keyUp(Key.ALT).keyUp(Key.SHIFT).perform();
    expect(await inPage<string>(driver, 'return document.getSelection().toString()')).toBe('');
    await driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_RIGHT).keyUp(Key.SHIFT).perform();
    const noted = await inPage<string>(driver, 'return document.getSelection().toString().trim()');
    // The page hears of a selection after it is made.
    await h.eventually(async () => {
      if ((await driver.findElements(By.css('.note textarea'))).length > 0) return true;
      await h.press('n');
      return false;
    }, 'no note to write');
    await h.fill(h.css('.note textarea'), 'Say how you saw it.');
    await h.press(Key.ENTER);
    await h.text('Say how you saw it.');
    expect(await inPage<string>(driver, "return document.querySelector('.note-ink').textContent")).toContain(noted.split(' ')[0]);
  });

  it('show where words stand elsewhere, side by side', async () => {
    const id = await itemId(base, 'Bench record in threes');
    const all = await stack(base, id);
    const alike = all.filter((e) => (e.matchPercent ?? 0) > 20);
    // Two groups have a passage in common, and nobody else anything.
    expect(alike).toHaveLength(2);
    expect(all.filter((e) => (e.matchPercent ?? 0) > 0).length).toBeLessThanOrEqual(4);
    await h.go(`${base}/marking/${id}/${alike[0]?.enrolmentId}`);
    await h.click(h.button('% elsewhere'));
    await h.text('stands elsewhere', 'h3');
    await h.text('the stone sits too shallow', 'mark');
    expect(await h.isAccessible()).toEqual([]);
    expect(await h.consoleErrors()).toEqual([]);
  });
});

describe('work of a group', () => {
  it('is one work in the stack, with one mark, and less for one of them with a reason', async () => {
    const id = await itemId(base, 'Bench record in threes');
    const group = (await stack(base, id)).find((e) => e.state === 'waits');
    await h.go(`${base}/marking/${id}/${group?.enrolmentId}`);
    await h.text(group?.group ?? '', 'h1');
    await h.css('#work-text');
    await h.press('1');
    await h.type(h.field('Score'), '6');
    await h.click(h.button(`All ${group?.members.length ?? 0} alike`));
    const [first = ''] = group?.members ?? [];
    await h.type(h.field(`More or less for ${first}`), '-2', Key.TAB);
    await h.type(h.field(`Reason for ${first}`), 'left early');
    expect(await h.isAccessible()).toEqual([]);
    await h.press(Key.ESCAPE);
    await h.click(h.button('Finish, next'));
    await h.eventually(
      async () => (await stack(base, id)).find((e) => e.enrolmentId === group?.enrolmentId)?.state === 'finished',
      'not finished',
    );
    const { rows } = await teacher.query(
      `select g.raw from work_grade g join enrolment e on e.id = g.enrolment_id join person p on p.id = e.person_id where g.item_id = $1 and p.given_name || ' ' || p.family_name = any($2) order by g.raw`,
      [id, group?.members],
    );
    expect(rows[0].raw).toBe('14.000');
    expect(rows.slice(1).every((r) => r.raw === '16.000')).toBe(true);
  });

  it('its members see the group, and what one handed in for all', async () => {
    const id = await itemId(base, 'Bench record in threes');
    const { rows } = await teacher.query(
      `select p.email from attempt a join submission sub on sub.id = a.submission_id join enrolment e on e.id = sub.enrolment_id join person p on p.id = e.person_id
       where sub.item_id = $1 and a.lead_id is not null order by p.family_name limit 1`,
      [id],
    );
    await signInBy(rows[0].email as string);
    await s.phone();
    await s.go(`${base}/study/${id}`);
    await s.text('You work on this together');
    await s.text('Handed in for your group by');
    expect(await s.isAccessible()).toEqual([]);
  });
});

describe('by two, without names', () => {
  it('what both gave stands side by side, is agreed on, and gets its name when it is released', async () => {
    const id = await itemId(timing, 'Error budget');
    let work: Entry | undefined;
    for (const entry of (await stack(timing, id)).filter((e) => e.state === 'to agree')) {
      const { part } = await h.api<{ part: { marks: { mark: { total: number } }[] } }>(
        'GET',
        `${timing}/marking/${id}/${entry.enrolmentId}`,
      );
      if (part.marks[0]?.mark.total !== part.marks[1]?.mark.total) work = entry;
    }
    expect(work?.isVeiled).toBe(true);
    await h.go(`${timing}/marking/${id}/${work?.enrolmentId}`);
    await h.text('both are finished', 'th');
    await h.text(`Work ${work?.familyName}`, 'h1');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Ines’s'));
    await h.click(h.button('Finish, next'));
    await h.eventually(
      async () => (await stack(timing, id)).find((e) => e.enrolmentId === work?.enrolmentId)?.state === 'finished',
      'not agreed',
    );
    await h.click(h.button('Release'));
    await h.text('is known by name from then on');
    await h.text(`Work ${work?.familyName}`, 'td');
    expect(
      await inPage<boolean>(
        teacher.driver,
        "return [...document.querySelectorAll('.v-overlay tbody td:first-child')].every((td) => /^Work /.test(td.textContent))",
      ),
    ).toBe(true);
    await h.click(teacher.driver.findElement(By.css('.v-overlay .go')));
    await h.text('marks are released');
    await h.eventually(async () => (await stack(timing, id)).some((e) => !e.isVeiled && e.state === 'released'), 'no name came');
  });

  it('how far they agree is said with its working', async () => {
    await h.go(`${timing}/stacks/${await itemId(timing, 'Error budget')}`);
    await h.text('weighted kappa', 'th');
    // The panels above it grow as they come in, so that a click may land where the button no longer is.
    await h.gone('.skeleton');
    await h.eventually(async () => {
      if (await h.has('The works it is made from, furthest apart first')) return true;
      await h.click(within('Fairness', 'working'));
      return h.has('The works it is made from, furthest apart first');
    }, 'the working does not open');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('works are shared out by chance, seen first, and an assistant has theirs', async () => {
    const id = await itemId(base, 'Your movement, heard');
    await h.go(`${base}/stacks/${id}`);
    await h.click(h.field('Teodor Vasko'));
    await h.click(h.button('Draw by chance'));
    await h.text('Not kept yet.');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Keep it so'));
    await h.text('The works are shared out.');
    await s.signInDemo('Teodor Vasko');
    const mine = await s.api<{ entries: Entry[] }>('GET', `${base}/marking/${id}`);
    // They are of Distance, which is not his section: sharing out gives them to him.
    expect(new Set(mine.entries.map((e) => e.section))).toEqual(new Set(['Morning bench', 'Evening bench', 'Distance']));
  });
});

describe('away from the network', () => {
  it('scores come back in a sheet, are looked at, and are brought in', async () => {
    const id = await itemId(base, 'Your movement, heard');
    const waiting = (await stack(base, id)).filter((e) => e.state === 'waits').slice(0, 2);
    const file = join(teacher.makeFolder(), 'scores.csv');
    writeFileSync(file, `work,points,feedback\n${waiting[0]?.enrolmentId},7.5,Clear\n${waiting[1]?.enrolmentId},99,\n`);
    await h.go(`${base}/stacks/${id}`);
    await h.text('Away from the network', 'h3');
    await (await h.css('section[aria-label="Away from the network"] input[type=file]')).sendKeys(file);
    await h.text('1 work would change');
    await h.text('99 is more than the 10 points');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.field('finish these marks at once'));
    await h.click(h.button('Import 1'));
    await h.text('1 work changed, 1 of them finished.');
    expect((await stack(base, id)).find((e) => e.enrolmentId === waiting[0]?.enrolmentId)?.state).toBe('finished');
  });
  it('the archive and the marked copy are there to be fetched', async () => {
    const id = await itemId(base, 'Condition report');
    const work = (await stack(base, id)).find((e) => e.state === 'finished' || e.state === 'waits');
    const kinds = await teacher.driver.executeAsyncScript<string[]>(
      'const done = arguments[2]; Promise.all([arguments[0], arguments[1]].map((p) => fetch("/api" + p).then(async (r) => [r.status, r.headers.get("content-type"), new TextDecoder("latin1").decode((await r.arrayBuffer()).slice(0, 4))].join(" ")))).then(done)',
      `${base}/marking/${id}/works.zip`,
      `${base}/marking/${id}/${work?.enrolmentId}/copy`,
    );
    expect(kinds).toEqual(['200 application/zip PK\u0003\u0004', '200 application/pdf %PDF']);
    expect(await h.consoleErrors()).toEqual([]);
  });
});

describe('a student on a bad connection', () => {
  it('a file goes on where the connection broke, and is handed in once', async () => {
    const id = await itemId(base, 'The lock, photographed');
    const { rows: found } = await teacher.query("select email from person where family_name = 'Ngata'");
    await signInBy(found[0].email as string);
    const file = join(teacher.makeFolder(), 'lock again.png');
    const png = Buffer.alloc(6_000_000, 7);
    Buffer.from([
      0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52, 0, 0, 0, 1, 0, 0, 0, 1, 8, 0, 0, 0, 0,
    ]).copy(png);
    writeFileSync(file, png);
    await s.go(`${base}/study/${id}`);
    await s.click(s.button('Hand in again'));
    const chrome = other.driver as WebDriver & { sendDevToolsCommand: (name: string, value: object) => Promise<void> };
    // A narrow line first, so that it can be cut in the middle.
    const line = (offline: boolean, bytes: number): Promise<void> =>
      chrome.sendDevToolsCommand('Network.emulateNetworkConditions', {
        offline,
        latency: 5,
        downloadThroughput: -1,
        uploadThroughput: bytes,
      });
    await chrome.sendDevToolsCommand('Network.enable', {});
    await line(false, 1_500_000);
    await (await s.css('.pick input[type=file]')).sendKeys(file);
    await s.eventually(
      () =>
        inPage<boolean>(
          other.driver,
          "return Number(document.querySelector('[role=progressbar][aria-label^=Sending]')?.getAttribute('aria-valuenow') ?? 0) >= 15",
        ),
      'nothing arrives',
    );
    await line(true, 0);
    await s.text('no connection; it goes on when it is back');
    await line(false, -1);
    await s.text('lock again.png', 'a');
    await s.click(other.driver.findElement(By.xpath('//form//button[normalize-space(.)="Hand in"]')));
    await s.text('Handed in.');
    const { rows } = await teacher.query(
      `select b.size, (select count(*)::int from upload_part) as parts from attempt a join submission sub on sub.id = a.submission_id join enrolment e on e.id = sub.enrolment_id join person p on p.id = e.person_id
       join attempt_file af on af.attempt_id = a.id join file f on f.id = af.file_id join file_blob b on b.sha256 = f.sha256 where sub.item_id = $1 and p.family_name = 'Ngata' order by a.number desc`,
      [id],
    );
    expect(rows[0]).toEqual({ size: '6000000', parts: 0 });
  });
});
