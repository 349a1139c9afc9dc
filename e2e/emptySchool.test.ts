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
async function addPerson(given: string, family: string): Promise<void> {
  await h.fill(h.field('Given name'), given);
  await h.fill(h.field('Family name'), family);
  await h.fill(h.field('Email'), `${given.toLowerCase()}@new.example`);
  await h.fill(h.field('First password, at least 10 characters'), PASSWORD);
  await h.click(h.button('Add the person'));
  await h.text(`${given} ${family} is added`);
}

describe('an empty school', () => {
  it('has an administrator whose password is shown once at the first start', async () => {
    const password = /password {2}(\S+)/.exec(rosemary.output())?.[1] ?? '';
    expect(password.length).toBeGreaterThanOrEqual(12);
    await enter('administrator@rosemary.local', password);
    await h.text('Three steps to the first course');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('gets a term, people and a course', async () => {
    await h.fill(h.field('Title'), 'Autumn');
    await h.set(h.field('First day'), '2026-09-21');
    await h.set(h.field('Last day'), '2026-09-01');
    await h.click(h.button('Add the term'));
    await h.text('is not after the first');
    await h.set(h.field('Last day'), '2027-01-03');
    await h.click(h.button('Add the term'));
    await h.text('The term is added');
    await addPerson('Tea', 'Cher');
    await addPerson('Stu', 'Dent');
    const school = await h.api<{ terms: { id: string }[]; people: { id: string; givenName: string }[] }>('GET', '/school');
    await h.fill(
      rosemary.driver.findElement({ xpath: '//form[.//h3[text()="Add a course"]]//label[contains(., "Title")]//input' }),
      'First course',
    );
    await h.fill(h.field('Code; fixed once used'), 'ONE-1');
    await h.fill(h.field('Run; fixed once used'), 'first');
    await h.set(h.field('Term'), school.terms[0]?.id ?? '');
    await h.set(h.field('Instructor'), school.people.find((p) => p.givenName === 'Tea')?.id ?? '');
    await h.click(h.button('Add the course'));
    await h.text('The course is added');
    await h.signOut();
  });

  it('shows the teacher empty views that say what will be there, and lets them begin', async () => {
    await enter('tea@new.example', PASSWORD);
    await h.text('Nothing waits');
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
    await h.click(h.button('Add unit'));
    await h.type(h.field('Title of the new unit'), 'Beginnings', Key.ENTER);
    await h.click(h.button('Add item'));
    await h.type(h.field('Title of the new item'), 'Welcome', Key.ENTER);
    await h.css('.row.on');
    await h.set(h.field('State:'), 'open');
    await h.text('State: open');
    await h.click(h.button('Check and open it'));
    await h.text('Check before opening', 'h2');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Open the course'));
    await h.text('The course is open');
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
