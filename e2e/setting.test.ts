import { jest } from '@jest/globals';
import { By, Key } from 'selenium-webdriver';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** How work is set and looked at as a whole: forms of judging, groups that students choose, the stack as a table, text matching. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let base = '';
interface Entry {
  readonly enrolmentId: string;
  readonly state: string;
  readonly scoreText: string | null;
  readonly matchPercent: number | null;
  readonly sharedTo: readonly string[];
}
interface Plan {
  readonly units: readonly { readonly items: readonly { readonly id: string; readonly title: string }[] }[];
}
jest.setTimeout(240_000);
beforeAll(async () => {
  rosemary = await startRosemary('setting', true);
  h = hands(rosemary);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  base = `/courses/${me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
});
afterAll(() => rosemary?.close());
const idOf = async (title: string): Promise<string> =>
  (await h.api<Plan>('GET', `${base}/plan`)).units.flatMap((u) => u.items).find((i) => i.title === title)?.id ?? '';
const entries = async (id: string): Promise<readonly Entry[]> =>
  (await h.api<{ entries: Entry[] }>('GET', `${base}/marking/${id}`)).entries;
const choose = (label: string, words: string): Promise<void> => h.choose(h.field(label), words);

describe('other forms than levels', () => {
  it('errors are counted by a table, beside a tick and words, with weights that the points follow', async () => {
    await h.go(`${base}/items/${await idOf('Name the fault')}`);
    await h.click(h.button('errors counted'));
    await h.fill(h.field('Criterion 1'), 'Slips in terms');
    await h.click(h.button('Add criterion'));
    await h.fill(h.field('Criterion 2'), 'Fault named');
    await choose('How criterion 2 is judged', 'a tick');
    await h.click(h.button('Add criterion'));
    await h.fill(h.field('Criterion 3'), 'What to look at next');
    await choose('How criterion 3 is judged', 'in words');
    await h.fill(h.field('Weight of criterion 2 in percent'), '40');
    await h.press(Key.TAB);
    await h.eventually(async () => (await (await h.field('Weight of criterion 1 in percent')).getAttribute('value')) === '60', 'not 60 %');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Save the rubric'));
    await h.text('The rubric is saved.');
    await h.text('3 criteria, 10 points');
  });

  it('are marked in the strip: a number of errors, a tick, and words that the student reads', async () => {
    const id = await idOf('Name the fault');
    await h.go(`${base}/marking/${id}`);
    await h.css('#work-text');
    const who = (await rosemary.driver.getCurrentUrl()).split('/').at(-1) ?? '';
    await h.fill(h.field('Errors, Slips in terms'), '0');
    await h.press(Key.ENTER);
    await h.click(h.css('[aria-label="Fault named"] [role=radio]:last-child'));
    await h.fill(h.css('textarea[aria-label="What to look at next"]'), 'The banking pins.');
    await h.eventually(async () => (await h.has('10')) && !(await h.has('not yet chosen')), 'not whole');
    await h.click(h.button('Finish, next'));
    await h.eventually(async () => (await entries(id)).find((e) => e.enrolmentId === who)?.state === 'finished', 'not finished');
    expect((await entries(id)).find((e) => e.enrolmentId === who)?.scoreText).toBe('10 of 10');
    const { mark } = await h.api<{ mark: { comments: Record<string, string> } }>('GET', `${base}/marking/${id}/${who}`);
    expect(Object.values(mark.comments)).toEqual(['The banking pins.']);
  });
});

describe('the whole stack', () => {
  it('is ordered by any column, narrowed, and dealt with together', async () => {
    const id = await idOf('Condition report');
    await h.go(`${base}/stacks/${id}`);
    await h.css('section.whole tbody td.student');
    await h.click(h.button('words'));
    await h.click(h.button('words'));
    await h.css('th[aria-sort=descending]');
    const words = await rosemary.driver.executeScript<number[]>(
      "return [...document.querySelectorAll('section.whole td.words')].map((td) => Number(td.textContent))",
    );
    expect(words.length).toBeGreaterThan(5);
    expect(words).toEqual([...words].sort((a, b) => b - a));
    await h.click(h.button('waits 21'));
    await h.text('21 shown.');
    await h.click(h.css('input[aria-label="Choose all 21 shown"]'));
    await h.text('21 of 48 chosen.');
    await h.choose(h.button('have them marked by'), 'Teodor Vasko');
    await h.text('21 works are for Teodor Vasko to mark.');
    expect((await entries(id)).filter((e) => e.sharedTo.includes('Teodor Vasko'))).toHaveLength(21);
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await entries(id)).every((e) => e.sharedTo.length === 0), 'not taken back');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('is looked at for words that stand elsewhere, by a button, while one goes on', async () => {
    const id = await idOf('Condition report');
    await h.click(h.button('Look'));
    await h.eventually(async () => (await entries(id)).some((e) => e.matchPercent !== null), 'nothing was looked at');
    await h.text('works looked at');
  });
});

describe('groups that students choose', () => {
  let sharedId = '';
  it('are opened until a day, with so many members at most', async () => {
    await h.go(`${base}/groups`);
    await h.fill(h.field('A new set, such as'), 'Benches of choice');
    await choose('with', 'empty groups, this many');
    await h.fill(h.field('number'), '2');
    await h.click(h.button('Make it'));
    const set = "//section[.//input[@aria-label='Title of the set'][1]][.//input[contains(@aria-label, 'Title of')]][last()]";
    await h.eventually(
      async () => (await rosemary.driver.findElements(By.xpath("//label[contains(., 'Students choose their group until')]"))).length > 1,
      'no set',
    );
    const until = await rosemary.driver.findElement(By.xpath(`${set}//label[contains(., 'Students choose their group until')]//input`));
    await h.fill(until, '30 Nov 18:00');
    await h.press(Key.ENTER);
    await h.fill(h.field('members at most'), '1');
    await h.press(Key.TAB);
    interface Sets {
      readonly sets: readonly { readonly id: string; readonly title: string; readonly mostMembers: number | null }[];
    }
    let setId = '';
    await h.eventually(async () => {
      const made = (await h.api<Sets>('GET', `${base}/group-sets`)).sets.find((x) => x.title === 'Benches of choice');
      setId = made?.id ?? '';
      return made?.mostMembers === 1;
    }, 'not kept');
    // Something new is theirs to hand in together.
    const { units } = await h.api<{ units: { id: string; items: { id: string; version: number }[] }[] }>('GET', `${base}/plan`);
    const made = await h.api<{ id: string; plan: { units: typeof units } }>('POST', `${base}/items`, {
      unitId: units.at(-1)?.id,
      kind: 'assignment',
      title: 'A bench of choice',
      position: 0,
    });
    sharedId = made.id;
    const { version } = made.plan.units.flatMap((u) => u.items).find((i) => i.id === sharedId) ?? {};
    await h.api('PATCH', `${base}/items/${sharedId}`, { version, isDraft: false });
    const { assignment } = await h.api<{ assignment: { version: number } }>('GET', `${base}/items/${sharedId}`);
    await h.api('PUT', `${base}/items/${sharedId}/assignment`, { version: assignment.version, groupSetId: setId });
  });

  it('a student goes into one, and out again; a full one is not open', async () => {
    const silent = (await entries(sharedId)).filter((e) => e.state === 'not begun');
    const emails = await rosemary.query(
      'select p.email from enrolment e join person p on p.id = e.person_id where e.id = any($1) order by p.email limit 2',
      [silent.map((e) => e.enrolmentId)],
    );
    const [first, second] = (emails as { rows: { email: string }[] }).rows.map((r) => r.email);
    const as = async (email: string | undefined): Promise<void> => {
      await h.go('/sign-in');
      await h.api('POST', '/sign-out');
      await h.api('POST', '/sign-in', { email, password: 'tallowmere-bench' });
      await h.go(`${base}/study/${sharedId}`);
      await h.text('Choose the group you work in.');
    };
    await as(first);
    await h.click(h.button('go in'));
    await h.text('You work on this together');
    expect(await h.isAccessible()).toEqual([]);
    await as(second);
    const full = await h.button('full');
    expect(await full.isEnabled()).toBe(false);
    await h.click(h.button('go in'));
    await h.text('You work on this together');
    await h.click(h.button('leave it'));
    await h.text('Choose the group you work in.');
  });

  it('leaves no error in the console', async () => {
    expect(await h.consoleErrors()).toEqual([]);
  });
});
