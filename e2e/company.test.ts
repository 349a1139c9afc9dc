import { jest } from '@jest/globals';
import { By, Key } from 'selenium-webdriver';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** How a class is parted and written to: groups, messages, a course at everyone's own pace, pages that always stand. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let base = '';
let ownPace = '';
interface Group {
  readonly id: string;
  readonly title: string;
  readonly enrolmentIds: readonly string[];
}
jest.setTimeout(300_000);
beforeAll(async () => {
  rosemary = await startRosemary('company', true);
  h = hands(rosemary);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  base = `/courses/${me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
  const { terms } = await h.api<{ terms: { id: string }[] }>('GET', '/course-start');
  const body = { code: 'HOR-300', run: 'own', title: 'Dials at your own pace', termId: terms[0]?.id, timeZone: 'Europe/Lisbon' };
  const made = await h.api<{ id: string }>('POST', '/courses', { ...body, sections: ['Everyone'], outline: 'empty' });
  ownPace = `/courses/${made.id}`;
});
afterAll(() => rosemary?.close());
const sets = async (): Promise<readonly { title: string; groups: readonly Group[] }[]> =>
  (await h.api<{ sets: { title: string; groups: Group[] }[] }>('GET', `${base}/group-sets`)).sets;

describe('groups', () => {
  it('are dealt at random, each section for itself, and nobody is left out', async () => {
    await h.go(`${base}/roster`);
    await h.click(h.button('Groups'));
    await h.type(h.field('A new set'), 'Restoration in threes');
    await h.fill(h.field('number'), '3');
    // How large they will be is said before anybody is dealt.
    await h.text('48 students: ');
    await h.click(h.button('Make it'));
    await h.text('groups, 0 without one');
    const [made] = await sets();
    const sizes = made?.groups.map((g) => g.enrolmentIds.length) ?? [];
    expect(sizes.reduce((sum, n) => sum + n, 0)).toBe(48);
    expect(Math.max(...sizes)).toBeLessThanOrEqual(4);
    expect(await h.isAccessible()).toEqual([]);
  });

  it('a member goes to another group and back by Undo', async () => {
    const before = (await sets())[0]!.groups;
    const [from, to] = before as [Group, Group];
    await h.choose(h.css('.group li .choice-field'), to.id);
    await h.eventually(async () => (await sets())[0]?.groups[1]?.enrolmentIds.length === to.enrolmentIds.length + 1, 'not moved');
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await sets())[0]?.groups[0]?.enrolmentIds.length === from.enrolmentIds.length, 'not put back');
  });

  it('a member is dragged to another group, and back by Undo', async () => {
    const before = (await sets())[0]!.groups;
    const [from, to] = before as [Group, Group];
    await h.drag(h.css('.group:nth-child(1) li .who'), h.css('.group:nth-child(2) li:nth-child(2) .who'), { x: 0, y: 8 });
    await h.eventually(async () => {
      const [first, second] = (await sets())[0]!.groups;
      return (
        second?.enrolmentIds.includes(from.enrolmentIds[0] ?? '') === true && first?.enrolmentIds.length === from.enrolmentIds.length - 1
      );
    }, 'not dragged');
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await sets())[0]?.groups[1]?.enrolmentIds.length === to.enrolmentIds.length, 'not put back');
  });

  it('something is for one of them, which then says so and cannot be removed', async () => {
    const { units } = await h.api<{ units: { items: { id: string; title: string }[] }[] }>('GET', `${base}/plan`);
    const item = units.flatMap((u) => u.items).find((i) => i.title === 'Where oil belongs');
    await h.go(`${base}/plan?item=${item?.id}&field=opening`);
    await h.css('details.more[open]');
    const [group] = (await sets())[0]!.groups;
    await h.set(h.field('For a section, a group or a student'), `group ${group?.id}`);
    await h.css(`button[aria-label*="${group?.title}"][aria-label^="Not for"]`);
    await h.go(`${base}/groups`);
    await h.text('Where oil belongs');
    await h.click(h.css(`button[aria-label="Remove ${group?.title}"]`));
    await h.css('.fault');
    expect((await sets())[0]?.groups.some((g) => g.id === group?.id)).toBe(true);
  });
});

describe('messages', () => {
  it('go to two students, each alone; what was typed survives a reload', async () => {
    await h.go(`${base}/messages`);
    await h.click(h.button('Write'));
    await h.type(h.field('Subject'), 'Your loupe');
    await h.type(h.field('Message'), 'Please bring it on Thursday.');
    await h.click(h.field('Garrick, Ondine'));
    await rosemary.driver.navigate().refresh();
    await h.click(h.button('Write'));
    expect(await (await h.field('Subject')).getAttribute('value')).toBe('Your loupe');
    await h.text('To: 1 of');
    const others = await rosemary.driver.findElements(By.css('.names label input:not(:checked)'));
    await h.click(others[0]!);
    await h.text('To: 2 of');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Send to 2'));
    await h.text('Sent to 2');
    await h.text('Garrick, Ondine', 'li');
  });

  it('are read and answered by the student on a phone, and nobody else’s are there', async () => {
    const other = await rosemary.second();
    const s = hands(other);
    await s.signInDemo('Ondine Garrick');
    await s.phone();
    await s.go(`${base}/messages`);
    await s.click(s.button('Your loupe'));
    await s.text('Please bring it on Thursday.');
    await s.text('with Ines Okafor-Lind');
    await s.type(s.field('Answer'), 'I will.', Key.chord(Key.CONTROL, Key.ENTER));
    await s.text('I will.', 'p');
    expect(await s.isAccessible()).toEqual([]);
    // The teacher’s open page hears of it by itself.
    await h.text('new', 'span');
    await h.click(h.button('Ondine Garrick'));
    await h.text('I will.', 'p');
    expect(await h.isAccessible()).toEqual([]);
    expect(await s.consoleErrors()).toEqual([]);
  });
});

describe('a course at everyone’s own pace', () => {
  it('counts its dates from the start of each, which the Roster keeps', async () => {
    await h.go(`${ownPace}/settings`);
    await h.set(h.field('Its dates'), 'self');
    await h.eventually(async () => {
      const [apply] = await rosemary.driver.findElements(By.xpath('//*[contains(@class, "ripple")]//button[normalize-space(.)="Apply"]'));
      if (apply !== undefined) await apply.click().catch(() => undefined);
      return (await h.api<{ pacing: string }>('GET', `${ownPace}/settings`)).pacing === 'self';
    }, 'still by the term');
    expect(await h.isAccessible()).toEqual([]);
    await h.go(`${ownPace}/roster`);
    await h.text('Start', 'th');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('has pages that always stand, before its units', async () => {
    await h.go(`${ownPace}/plan`);
    await h.click(h.button('Add standing pages'));
    await h.eventually(async () => {
      const { units } = await h.api<{ units: { isStanding: boolean }[] }>('GET', `${ownPace}/plan`);
      return units[0]?.isStanding === true;
    }, 'no standing pages');
    await h.text('Standing pages');
    expect(await h.has('Add standing pages')).toBe(false);
    expect(await h.isAccessible()).toEqual([]);
    expect(await h.consoleErrors()).toEqual([]);
  });
});
