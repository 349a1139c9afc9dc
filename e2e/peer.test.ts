import { jest } from '@jest/globals';
import type { OwnPeer, PeerBoard } from '@rosemary/api';
import { DEMO_PASSWORD } from '@rosemary/demo';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** Students read and assess each other’s works: set up from what is offered, given on a phone, watched, decided, and read by the author. */
let teacher: Rosemary;
let student: Rosemary;
let h: ReturnType<typeof hands>;
let s: ReturnType<typeof hands>;
let base = '';
let planId = '';
let emails: readonly string[] = [];
jest.setTimeout(300_000);
beforeAll(async () => {
  teacher = await startRosemary('peer', true);
  student = await teacher.second();
  h = hands(teacher);
  s = hands(student);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string }[] }>('GET', '/me');
  base = `/courses/${me.courses.find((c) => c.code === 'HOR-205')?.id ?? ''}`;
  const { units } = await h.api<{ units: { items: { id: string; title: string }[] }[] }>('GET', `${base}/plan`);
  planId = units.flatMap((u) => u.items).find((i) => i.title === 'Restoration plan')?.id ?? '';
  // Two who handed in and have given no review yet.
  const found = await teacher.query(
    `select p.email::text as email from review r join enrolment e on e.id = r.enrolment_id join person p on p.id = e.person_id
     where r.item_id = $1 and r.dropped_at is null group by p.email having bool_and(r.saved_at is null) order by p.email`,
    [planId],
  );
  emails = (found.rows as { email: string }[]).map((row) => row.email);
}, 180_000);
afterAll(() => teacher?.close());

const board = (): Promise<PeerBoard> => h.api<PeerBoard>('GET', `${base}/items/${planId}/peer/board`);
async function signIn(email: string): Promise<void> {
  await s.go('/sign-in');
  await s.api('POST', '/sign-out');
  await s.api('POST', '/sign-in', { email, password: DEMO_PASSWORD });
}
const own = (): Promise<OwnPeer> => s.api<OwnPeer>('GET', `${base}/items/${planId}/own-reviews`);

describe('setting a peer review', () => {
  it('is one press on an assignment with a due date, and runs by itself from there', async () => {
    const { units } = await h.api<{ units: { id: string; items: { title: string }[] }[] }>('GET', `${base}/plan`);
    const unitId = units.find((u) => u.items.some((i) => i.title === 'Restoration plan'))?.id;
    const made = await h.api<{ id: string }>('POST', `${base}/items`, { unitId, kind: 'assignment', title: 'Read by others', position: 9 });
    const { item } = await h.api<{ item: { id: string; version: number } }>('GET', `${base}/items/${made.id}`);
    await h.api('PATCH', `${base}/items/${item.id}`, { version: item.version, dueAt: '2026-11-27T17:00:00Z', isDraft: false });
    await h.go(`${base}/items/${item.id}`);
    await h.text('Nobody but those who mark.');
    await h.click(h.button('Other students…'));
    await h.click(h.button('Let students review each other'));
    await h.text('It runs by itself');
    await h.text('Read the whole work once before you judge any of it.');
    await h.text('4 criteria, 30 points');
    await h.set(h.field('Works are reviewed by'), 'outside group');
    await h.text('no set of groups is chosen. Choose one.');
    await h.set(h.field('Works are reviewed by'), 'section');
    await h.text('It runs by itself');
    expect(await h.isAccessible()).toEqual([]);
  });
});

describe('giving reviews', () => {
  it('is done on a phone, by somebody who is told no name', async () => {
    await signIn(emails[0] ?? '');
    await s.phone();
    await s.go(`${base}/study/${planId}`);
    await s.text('0 of 3 reviews given.');
    await s.click(s.button('First work'));
    await s.text('a work by somebody else');
    await s.click(s.button('Good'));
    await s.text('Still to judge: Reasons and evidence, Clear to read.');
    const again = (await own()).owed[0];
    expect(again?.state).toMatch(/begun|to give/);
    for (const criterion of ['Reasons and evidence', 'Clear to read'])
      await s.click(s.css(`[role="radiogroup"][aria-label="${criterion}"] button[role="radio"]:nth-of-type(3)`));
    await s.type(s.field('Words to the author'), 'The order of the work is clear to me. I would take the rate once more at the end.');
    await s.text('Saved ');
    await s.go(`${base}/study/${planId}/reviews/${again?.id}`);
    await s.eventually(
      async () => ((await (await s.field('Words to the author')).getAttribute('value')) ?? '').startsWith('The order of the work'),
      'what was typed is lost',
    );
    expect(await s.isAccessible()).toEqual([]);
    await s.click(s.button('Hand in the review'));
    await s.text('Handed in');
    expect((await own()).owed.map((o) => o.state)).toContain('given');
    const seen = await s.api<object>('GET', `${base}/items/${planId}/own-reviews/${again?.id}`);
    for (const line of (await board()).lines) expect(JSON.stringify(seen)).not.toContain(line.name.split(', ')[0] ?? '');
  });

  it('has notes at the words they are about', async () => {
    await s.go(`${base}/study/${planId}/reviews/${(await own()).owed.find((o) => o.state !== 'given')?.id}`);
    const words = await (await s.css('.ProseMirror p')).getText();
    await s.selectWords('.ProseMirror', words.slice(0, 12));
    await s.click(s.button('Note on the selected words'));
    await s.type(s.field('Note'), 'How often?');
    await s.click(s.button('Keep the note'));
    await s.text('How often?', 'p');
  });
});

describe('watching', () => {
  it('shows who gave what, what lies far from the rest, and opens each', async () => {
    await h.go(`${base}/items/${planId}/reviews`);
    await h.text('26 of 26 works in');
    await h.text('people have given none');
    await h.set(h.field('Show'), 'far');
    const far = (await board()).reviews.find(
      (r) => r.signs.some((sign) => sign.sign === 'far from the rest') && r.signs.some((sign) => sign.sign === 'quick'),
    );
    const line = (await board()).lines.find((l) => l.workId === far?.workId);
    await h.click(h.button(line?.name ?? ''));
    await h.text('given in 40 seconds');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Set it aside…'));
    await h.type(h.field('Why it is set aside'), 'Given without reading it');
    const before = (await board()).works.find((w) => w.id === far?.workId)?.value ?? 0;
    await h.click(h.button('Set it aside'));
    await h.text('The review is set aside.');
    const after = (await board()).works.find((w) => w.id === far?.workId)?.value ?? 0;
    expect(after).not.toBe(before);
    await h.click(h.button('Undo'));
    await h.eventually(async () => ((await board()).works.find((w) => w.id === far?.workId)?.value ?? 0) === before, 'not taken back');
  });

  it('lets the teacher decide otherwise, and gives the results; the author reads them and answers', async () => {
    const [name, workId] = await board().then((b) => {
      const line = b.lines.find((l) => l.work !== null);
      return [line?.name ?? '', line?.workId ?? ''] as const;
    });
    await h.go(`${base}/items/${planId}/reviews`);
    await h.click(h.button(name));
    await h.click(h.button('Assess this work'));
    for (const criterion of ['Answers the task', 'Reasons and evidence', 'Clear to read'])
      await h.click(h.css(`aside [role="radiogroup"][aria-label="${criterion}"] button[role="radio"]:nth-of-type(4)`));
    await h.click(h.button('Let it count'));
    await h.text('Your assessment counts.');
    expect((await board()).lines.find((l) => l.workId === workId)?.work).toBe(40_000);
    await h.click(h.button('Give the results now'));
    await h.text('Results are out since');
    const { rows } = await teacher.query(
      'select p.email::text as email from submission s join enrolment e on e.id = s.enrolment_id join person p on p.id = e.person_id where s.id = $1',
      [workId],
    );
    await signIn((rows[0] as { email: string }).email);
    await s.go(`${base}/study/${planId}`);
    await s.text('What others saw');
    await s.text('40 of 40');
    await s.click(s.button('Thank'));
    await s.text('Thanked');
    expect(await s.isAccessible()).toEqual([]);
    expect(await h.consoleErrors()).toEqual([]);
    expect(await s.consoleErrors()).toEqual([]);
  });
});
