import { Key } from 'selenium-webdriver';
import { jest } from '@jest/globals';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('empty', false);
  h = hands(rosemary);
});
afterAll(() => rosemary?.close());
const PASSWORD = 'a good long password';

async function enter(email: string, password: string): Promise<void> {
  await h.go('/sign-in');
  await h.type(h.field('Email'), email);
  await h.type(h.field('Password'), password, Key.ENTER);
  await h.css('header.bar');
}
async function addPerson(given: string, family: string, teaches = false): Promise<void> {
  await h.fill(h.field('Given name'), given);
  await h.fill(h.field('Family name'), family);
  await h.fill(h.field('Email'), `${given.toLowerCase()}@new.example`);
  await h.fill(h.field('First password, at least 10 characters'), PASSWORD);
  if (teaches) await h.click(h.field('teaches, and may make courses'));
  await h.click(h.button('Add the person'));
  await h.text(`${given} ${family} is added`);
}

describe('an empty school', () => {
  it('has an administrator whose password is shown once at the first start', async () => {
    const password = /password {2}(\S+)/.exec(rosemary.output())?.[1] ?? '';
    expect(password.length).toBeGreaterThanOrEqual(12);
    await enter('administrator@rosemary.local', password);
    await h.text('0 of 6 done');
    await h.text('Say when the term begins and ends');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('is led by its first steps to a term with its holidays, to the people and to a course', async () => {
    await h.click(h.button('Go there'));
    await h.type(rosemary.driver.switchTo().activeElement(), 'Autumn');
    await h.set(h.field('First day'), '2026-09-21');
    await h.set(h.field('Last day'), '2026-09-01');
    await h.click(h.button('Add the term'));
    await h.text('is not after the first');
    await h.set(h.field('Last day'), '2027-01-03');
    await h.fill(h.field('Public holidays of'), 'portu');
    await h.click(h.css('[role="option"][data-value="Portugal"]'));
    // All Saints’ Day is a Sunday, on which nobody meets.
    await h.text('no meeting day');
    await h.click(h.button('Add these 5 holidays'));
    await h.eventually(
      async () => (await rosemary.driver.findElements({ css: 'input[aria-label="Name of the holiday"]' })).length === 5,
      'the holidays are not in the term',
    );
    await h.click(h.button('Add the term'));
    await h.text('The term is added');
    await h.text('1 of 6 done');
    await h.click(h.button('Go there'));
    await addPerson('Tea', 'Cher', true);
    await h.text('2 of 6 done');
    await addPerson('Stu', 'Dent');
    await h.click(h.button('Go there'));
    await h.type(rosemary.driver.switchTo().activeElement(), 'First course');
    await h.fill(h.field('Code; fixed once used'), 'ONE-1');
    await h.fill(h.field('Run; fixed once used'), 'first');
    // One term and one teacher: both are chosen.
    await h.click(h.button('Add the course'));
    await h.text('The course is added');
    await h.text('Tea Cher can do this next.');
    expect(await h.isAccessible()).toEqual([]);
    await h.signOut();
  });

  it('shows the teacher empty views that say what will be there, and lets them begin', async () => {
    await enter('tea@new.example', PASSWORD);
    await h.text('Nothing waits');
    await h.text('0 of 4 done');
    await h.text('Add the students of “First course” on its roster');
    await h.click(h.button('First course'));
    await h.text('Begin with the first unit');
    for (const [view, words] of [
      ['marking', 'will stand here with the work that waits'],
      ['gradebook', 'will stand here as columns'],
      ['progress', 'Students will stand here'],
    ] as const) {
      const { href } = await rosemary.driver.executeScript<{ href: string }>('return { href: location.pathname }');
      await h.go(href.replace(/\/\w+$/, `/${view}`));
      await h.text(words);
    }
    const path = await rosemary.driver.executeScript<string>('return location.pathname');
    await h.go(path.replace(/\/\w+$/, '/roster'));
    await h.type(h.field('Add someone from the school'), 'stu');
    const { rows } = await rosemary.query("select id from person where given_name = 'Stu'");
    await h.click(h.css(`[role="option"][data-value="${rows[0].id}"]`));
    await h.click(h.button('Add'));
    await h.text('Dent, Stu');
    await h.go(path.replace(/\/\w+$/, '/plan'));
    await h.text('1 of 4 done');
    await h.fill(h.field('Title of the first unit'), 'Beginnings');
    await h.type(h.field('Title of the first page'), 'Welcome', Key.ENTER);
    await h.text('The unit and its page are made');
    await h.text('Welcome', 'h1');
    await h.go(path.replace(/\/\w+$/, '/plan'));
    await h.text('“First course” holds 1 draft');
    await h.click(h.button('Check and open it →'));
    await h.text('Check before opening', 'h2');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Open the course and this draft'));
    await h.text('The course is open');
    await h.go(path.replace(/\/\w+$/, '/plan'));
    await h.text('3 of 4 done');
    await h.click(h.button('See it as a student'));
    await h.text('You see this course as');
    await h.click(h.button('Back to teaching'));
    await h.text('Beginnings', 'h2');
    await h.eventually(
      async () => (await rosemary.driver.findElements({ css: '[aria-label="First steps"]' })).length === 0,
      'the steps still stand there',
    );
    await h.signOut();
  });

  it('lets the student in, and the page is read', async () => {
    await enter('stu@new.example', PASSWORD);
    await h.text('Nothing more is due this week');
    const { courses } = await h.api<{ courses: { id: string }[] }>('GET', '/me');
    await h.go(`/courses/${courses[0]?.id}/study`);
    await h.click(h.button('Welcome'));
    await h.text('Welcome', 'h1');
    await h.eventually(async () => (await rosemary.query('select count(*)::int as n from visit')).rows[0].n === 1, 'no visit');
    expect(await h.consoleErrors()).toEqual([]);
  });

  it('shows somebody where they are signed in, signs them out elsewhere, and changes their password', async () => {
    const elsewhere = await fetch(`${rosemary.url}/api/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: 'stu@new.example', password: PASSWORD }),
    });
    const cookie = (elsewhere.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
    const statusElsewhere = async (): Promise<number> => (await fetch(`${rosemary.url}/api/me/sessions`, { headers: { cookie } })).status;
    expect(await statusElsewhere()).toBe(200);
    await h.go('/account');
    await h.text(': here, now');
    await h.click(h.button('Sign out the other place'));
    await h.text('You are signed in nowhere else.');
    expect(await statusElsewhere()).toBe(401);
    const [current, next] = ['input[autocomplete=current-password]', 'input[autocomplete=new-password]'];
    await h.fill(h.css(current), PASSWORD);
    await h.fill(h.css(next), 'qwertyuiop');
    await h.click(h.button('Change the password'));
    await h.text('among the first that are tried');
    await h.fill(h.css(next), 'four unrelated quiet pines');
    await h.click(h.button('Change the password'));
    await h.text('Your password is changed');
    expect(await h.isAccessible()).toEqual([]);
    await enter('stu@new.example', 'four unrelated quiet pines');
  });
});
