import { jest } from '@jest/globals';
import type { OwnPeer, PeerBoard, Taking } from '@rosemary/api';
import { DEMO_PASSWORD } from '@rosemary/demo';
import { By } from 'selenium-webdriver';
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
/** Chooses the level of that place at each of the three criteria of the form that is offered. */
async function judge(who: ReturnType<typeof hands>, level: number): Promise<void> {
  for (const criterion of ['Answers the task', 'Reasons and evidence', 'Clear to read'])
    await who.click(who.css(`aside [role="radiogroup"][aria-label="${criterion}"] button[role="radio"]:nth-of-type(${level})`));
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

describe('an assignment inside a page', () => {
  it('is put there by its teacher, and written and handed in there by a student', async () => {
    const { units } = await h.api<{ units: { id: string; items: { id: string; title: string }[] }[] }>('GET', `${base}/plan`);
    const unitId = units.find((u) => u.items.some((i) => i.title === 'Restoration plan'))?.id;
    const asked = units.flatMap((u) => u.items).find((i) => i.title === 'Read by others')?.id ?? '';
    const { id } = await h.api<{ id: string }>('POST', `${base}/items`, { unitId, kind: 'page', title: 'Read, then answer', position: 9 });
    await h.go(`${base}/items/${id}`);
    await h.type(h.css('.ProseMirror'), 'Read this first.');
    await h.click(h.css('.tools .insert'));
    await h.click(h.button('Answer handed in here'));
    await h.set(h.field('Assignment'), `${base}/items/${asked}`);
    await h.text('Students write and hand in here, in the page.');
    await h.click(h.css('.block-form button[type="submit"]'));
    await h.css('.ProseMirror .response');
    expect(await h.isAccessible()).toEqual([]);
    const isKept = async (): Promise<boolean> => JSON.stringify(await h.api('GET', `${base}/items/${id}`)).includes('"response"');
    await h.eventually(isKept, 'not saved');
    const { item } = await h.api<{ item: { version: number } }>('GET', `${base}/items/${id}`);
    await h.api('PATCH', `${base}/items/${id}`, { version: item.version, isDraft: false });
    await signIn(emails[0] ?? '');
    await s.go(`${base}/study/${id}`);
    await s.text('Read this first.');
    await s.text('due Fri 27 Nov');
    await s.type(s.css('.response .ProseMirror'), 'What I read was short.');
    await s.text('Saved');
    await s.click(student.driver.findElement(By.xpath('//section[contains(@class, "response")]//button[normalize-space(.)="Hand in"]')));
    await s.text('What you handed in');
    expect(await s.isAccessible()).toEqual([]);
    await s.go(`${base}/study/${id}`);
    await s.text('What I read was short.');
  });
});

describe('three students, from the sample work to the works that are shown', () => {
  let itemId = '';
  /** Three who are in the course, by their addresses. */
  let three: readonly string[] = [];
  const words = ['I would take the rate first.', 'The spring comes out first of all.', 'The dial stays where it is.'] as const;
  const path = (): string => `${base}/items/${itemId}`;
  const ownReviews = (): Promise<OwnPeer> => s.api<OwnPeer>('GET', `${path()}/own-reviews`);

  it('the teacher writes a sample work, assesses it, and lets it be practised first', async () => {
    const { rows } = await teacher.query(
      `select p.email::text as email from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and not e.is_sample order by p.email limit 3`,
      [base.split('/').at(-1)],
    );
    three = (rows as { email: string }[]).map((row) => row.email);
    const { units } = await h.api<{ units: { items: { id: string; title: string }[] }[] }>('GET', `${base}/plan`);
    itemId = units.flatMap((u) => u.items).find((i) => i.title === 'Read by others')?.id ?? '';
    await h.go(`${path()}/peer`);
    await h.click(h.button('Write a sample work'));
    await h.fill(h.field('Title, as students see it'), 'A plan that leaves out the test');
    await h.click(h.css('.ProseMirror[aria-label="The sample work"]'));
    await h.type(h.css('.ProseMirror[aria-label="The sample work"]'), 'I would clean it, oil it and put it back.');
    await h.text('Students do not see it yet.');
    await judge(h, 2);
    await h.text('It is assessed: students can practise on it.');
    await h.text('Saved ');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Read by others'));
    await h.text('assessed; nobody has practised on it yet');
    await h.set(h.field('They'), 'before');
    const read = () => h.api<{ setting: object & { samples: string } }>('GET', `${path()}/peer`);
    await h.eventually(async () => (await read()).setting.samples === 'before', 'not saved');
    const set = await read();
    await h.api('PUT', `${path()}/peer`, {
      ...set.setting,
      reviewsOpen: 'own work',
      reviewsPerWork: 2,
      reviewsPerStudent: 2,
      among: 'course',
    });
  });

  it('each writes and practises, and sees at once what the teacher saw', async () => {
    for (const [n, email] of three.entries()) {
      await signIn(email);
      if (n === 0) {
        await s.go(`${base}/study/${itemId}`);
        await s.click(s.field('Your answer'));
        await s.type(s.field('Your answer'), words[0]);
        await s.text('Saved', 'span');
        await s.click(s.button('Hand in'));
        await s.text('Handed in');
        await s.click(s.button('A plan that leaves out the test'));
        await s.text('It counts nothing.');
        await judge(s, 3);
        await s.click(s.button('Compare with the teacher’s'));
        await s.text('0 of 3 criteria as the teacher.');
        await s.text('1 level higher than the teacher');
        expect(await s.isAccessible()).toEqual([]);
        continue;
      }
      const item = `${base}/own/items/${itemId}`;
      const document = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: words[n] }] }] };
      const held = await s.api<{ draft: { version: number } }>('GET', item);
      const saved = await s.api<{ version: number }>('PUT', `${item}/draft`, { document, version: held.draft.version });
      await s.api('POST', `${item}/hand-in`, { note: '', key: `three ${n} ${itemId}`, version: saved.version });
      const [sample] = (await ownReviews()).samples;
      const open = await s.api<{ form: { criteria: { id: string; levels: { id: string }[] }[] } }>(
        'GET',
        `${path()}/own-samples/${sample?.id}`,
      );
      const choices = Object.fromEntries(open.form.criteria.flatMap((c) => (c.levels[1] === undefined ? [] : [[c.id, c.levels[1].id]])));
      const kept = { choices, given: {}, comments: {}, words: '', version: 0, seconds: 1 };
      const { version } = await s.api<{ version: number }>('PUT', `${path()}/own-samples/${sample?.id}`, kept);
      await s.api('POST', `${path()}/own-samples/${sample?.id}/compare`, { version });
    }
    await h.go(`${path()}/reviews`);
    await h.click(h.button('Give the works out now'));
    await h.text('6 reviews given out');
    await h.text('1 of 1');
  });

  it('each gives two reviews, one of them on a phone, and says whether their work may be shown', async () => {
    for (const [n, email] of three.entries()) {
      await signIn(email);
      if (n === 1) await s.phone();
      const { owed } = await ownReviews();
      expect(owed).toHaveLength(2);
      for (const { id } of owed) {
        if (n !== 1) {
          const open = await s.api<{ version: number; form: { criteria: { id: string; levels: { id: string }[] }[] } }>(
            'GET',
            `${path()}/own-reviews/${id}`,
          );
          const choices = Object.fromEntries(
            open.form.criteria.flatMap((c) => (c.levels[2] === undefined ? [] : [[c.id, c.levels[2].id]])),
          );
          const kept = { choices, given: {}, comments: {}, words: `Words of number ${n}`, version: open.version, seconds: 200 };
          const { version } = await s.api<{ version: number }>('PUT', `${path()}/own-reviews/${id}`, kept);
          await s.api('POST', `${path()}/own-reviews/${id}/hand-in`, { version });
          continue;
        }
        await s.go(`${base}/study/${itemId}/reviews/${id}`);
        await judge(s, 4);
        await s.click(s.button('Hand in the review'));
        await s.text('Handed in');
      }
      if (n === 2) continue;
      await s.go(`${base}/study/${itemId}`);
      await s.set(s.field('My teacher may show my work to'), n === 0 ? 'without name' : 'with name');
      await s.text('Your teacher may show your work as you say.');
    }
  });

  it('the teacher gives the results, says a closing word and shows two works; the third student reads them', async () => {
    await h.go(`${path()}/reviews`);
    await h.click(h.button('Give the results now'));
    await h.text('Results are out since');
    await h.click(h.css('.closing > summary'));
    await h.click(h.css('.ProseMirror[aria-label="Closing word"]'));
    await h.type(h.css('.ProseMirror[aria-label="Closing word"]'), 'Nobody forgot the spring.');
    await h.text('Saved ');
    const shown = await h.api<PeerBoard>('GET', `${path()}/peer/board`);
    const { rows } = await teacher.query(
      'select e.id, p.email::text as email from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and p.email = any($2) order by p.email',
      [base.split('/').at(-1), three.slice(0, 2)],
    );
    for (const { id } of rows as { id: string }[]) {
      await h.go(`${path()}/reviews?student=${shown.lines.find((l) => l.enrolmentId === id)?.enrolmentId}`);
      await h.click(h.button('Show to the class'));
      await h.type(h.field('A word on it, for the class'), 'Look at what comes first.');
      await h.click(h.button('Show it'));
      await h.text('The class can read it.');
    }
    expect(await h.isAccessible()).toEqual([]);
    await signIn(three[2] ?? '');
    await s.go(`${base}/study/${itemId}`);
    await s.text('Nobody forgot the spring.');
    await s.text('What others saw');
    await s.click(s.button('A work of your class'));
    await s.text(words[0]);
    const all = (await ownReviews()).shown.map((w) => w.by);
    expect(all).toHaveLength(2);
    expect(all).toContain('A work of your class');
    expect(await s.consoleErrors()).toEqual([]);
  });
});

describe('what is written in a discussion', () => {
  it('is reviewed as a work of each who wrote: set from the Plan, given out, read and assessed', async () => {
    const { units } = await h.api<{ units: { id: string; items: { title: string }[] }[] }>('GET', `${base}/plan`);
    const unitId = units.find((u) => u.items.some((i) => i.title === 'Restoration plan'))?.id;
    const made = await h.api<{ id: string }>('POST', `${base}/items`, {
      unitId,
      kind: 'discussion',
      title: 'Which fault first',
      position: 9,
    });
    const { item } = await h.api<{ item: { version: number } }>('GET', `${base}/items/${made.id}`);
    const dueAt = '2026-11-27T17:00:00Z';
    await h.api('PATCH', `${base}/items/${made.id}`, { version: item.version, dueAt, isDraft: false, possible: 10_000, counts: true });
    const { rows } = await teacher.query(
      `select p.email::text as email from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and not e.is_sample order by p.email limit 2`,
      [base.split('/').at(-1)],
    );
    const two = (rows as { email: string }[]).map((row) => row.email);
    for (const [n, email] of two.entries()) {
      await signIn(email);
      const text = n === 0 ? 'The click, since it is seen at once.' : 'The pivots, before anything is oiled.';
      const document = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text }] }] };
      await s.api('POST', `${base}/discussions/${made.id}/posts`, {
        id: crypto.randomUUID(),
        threadId: null,
        title: `Mine is ${n}`,
        document,
      });
    }
    await h.go(`${base}/plan?item=${made.id}`);
    await h.click(h.button('Other students…'));
    await h.text('What each student wrote can be reviewed as one work.');
    await h.click(h.button('Let students review each other'));
    await h.text('It runs by itself');
    const { setting } = await h.api<{ setting: object }>('GET', `${base}/items/${made.id}/peer`);
    await h.api('PUT', `${base}/items/${made.id}/peer`, { ...setting, reviewsOpen: 'own work', reviewsPerWork: 1, reviewsPerStudent: 1 });
    await h.go(`${base}/items/${made.id}/reviews`);
    await h.click(h.button('Give the works out now'));
    await h.text('2 reviews given out');
    await s.go(`${base}/study/${made.id}`);
    await s.click(s.button('First work'));
    await s.text('The click, since it is seen at once.');
    await judge(s, 3);
    await s.click(s.button('Hand in the review'));
    await s.text('Handed in');
    expect(await s.isAccessible()).toEqual([]);
  });
});

describe('the essays of a quiz', () => {
  it('are reviewed as one work: set from the quiz itself, paired by hand and by dragging, read and assessed', async () => {
    const { units } = await h.api<{ units: { id: string; items: { title: string }[] }[] }>('GET', `${base}/plan`);
    const unitId = units.find((u) => u.items.some((i) => i.title === 'Restoration plan'))?.id;
    const { id } = await h.api<{ id: string }>('POST', `${base}/items`, { unitId, kind: 'quiz', title: 'In your own words', position: 9 });
    const words = (text: string) => ({ type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text }] }] });
    const { sections } = await h.api<{ sections: { id: string }[] }>('GET', `${base}/quizzes/${id}`);
    await h.api('POST', `${base}/quizzes/${id}/questions`, {
      ...{ sectionId: sections[0]?.id, position: 0 },
      questions: [{ words: words('Describe the drop.'), points: 4000, key: { kind: 'essay' } }],
    });
    const { item } = await h.api<{ item: { version: number } }>('GET', `${base}/items/${id}`);
    await h.api('PATCH', `${base}/items/${id}`, { version: item.version, dueAt: '2026-11-27T17:00:00Z', isDraft: false });
    const { rows } = await teacher.query(
      `select p.email::text as email from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and not e.is_sample order by p.email limit 3`,
      [base.split('/').at(-1)],
    );
    for (const [n, { email }] of (rows as { email: string }[]).entries()) {
      await signIn(email);
      const attempts = `${base}/own/quizzes/${id}/attempts`;
      const { attemptId } = await s.api<{ attemptId: string }>('POST', attempts, { key: crypto.randomUUID(), code: '' });
      const { taking } = await s.api<{ taking: Taking }>('GET', `${attempts}/${attemptId}`);
      const question = taking.sections[0]?.questions[0]?.id ?? '';
      const answer = { kind: 'work', document: words(`The drop in words, number ${n}.`), fileId: null };
      const more = { isFlagged: false, device: 'this one', turn: 1, seen: 0, seconds: 4 };
      await s.api('PUT', `${attempts}/${attemptId}/answers/${question}`, { answer, ...more });
      await s.api('POST', `${attempts}/${attemptId}/hand-in`);
    }
    await h.go(`${base}/quizzes/${id}`);
    await h.click(h.button('Settings'));
    await h.text('Who else reads the essays');
    await h.click(h.button('Other students…'));
    await h.click(h.button('Let students review each other'));
    await h.text('It runs by itself');
    const { setting } = await h.api<{ setting: object }>('GET', `${base}/items/${id}/peer`);
    await h.api('PUT', `${base}/items/${id}/peer`, { ...setting, reviewsOpen: 'own work', reviewsPerWork: 1, reviewsPerStudent: 1 });
    await h.go(`${base}/items/${id}/reviews`);
    await h.click(h.button('By hand'));
    const pairs = async () => (await h.api<PeerBoard>('GET', `${base}/items/${id}/peer/board`)).reviews.filter((r) => r.role === 'peer');
    const works = await h.api<PeerBoard>('GET', `${base}/items/${id}/peer/board`).then((b) => b.works.map((w) => w.id));
    const lines = await h.api<PeerBoard>('GET', `${base}/items/${id}/peer/board`).then((b) => b.lines.filter((l) => l.workId !== null));
    const last = lines.find((l) => l.workId === works[2]);
    const first = lines.find((l) => l.workId === works[0]);
    await h.set(h.field(`Give the work of ${first?.name} to`), last?.enrolmentId ?? '');
    await h.eventually(async () => (await pairs()).some((p) => p.workId === works[0] && p.reviewerId === last?.enrolmentId), 'not paired');
    // The events of a drag by the browser, which a driver cannot bring about by the mouse alone.
    await h.css('.peer-pairs .reviewer[draggable="true"]');
    await teacher.driver.executeScript(`
      const at = { dataTransfer: new DataTransfer(), bubbles: true, cancelable: true };
      const [, second] = document.querySelectorAll('.peer-pairs tbody tr');
      document.querySelector('.peer-pairs .reviewer[draggable="true"]').dispatchEvent(new DragEvent('dragstart', at));
      second.dispatchEvent(new DragEvent('dragover', at));
      second.dispatchEvent(new DragEvent('drop', at));`);
    await h.eventually(async () => {
      const now = await pairs();
      return now.length === 1 && now[0]?.workId === works[1] && now[0]?.reviewerId === last?.enrolmentId;
    }, 'not dragged');
    expect(await h.isAccessible()).toEqual([]);
    const reviewer = await teacher.query('select email::text as email from person where id = $1', [last?.personId]);
    await signIn((reviewer.rows[0] as { email: string }).email);
    await s.go(`${base}/study/${id}`);
    await s.click(s.button('First work'));
    await s.text('Describe the drop.');
    await s.text('The drop in words, number');
    await judge(s, 3);
    await s.click(s.button('Hand in the review'));
    await s.text('Handed in');
    await h.go(`${base}/items/${id}/reviews`);
    await h.click(h.button('Add a follow-up'));
    await h.set(h.field('When'), 'gave reviews');
    await h.type(h.field('Subject'), 'Thank you');
    await h.type(h.field('Message'), 'Your review is in.');
    await h.click(h.button('Keep it'));
    await h.text('Whoever has given all their reviews gets the message “Thank you”');
    await h.text('done for one');
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
    // The reviews that this journey itself has handed in are quick too: only the one in the demo data took just 40 seconds.
    const far = (await board()).reviews.find(
      (r) => r.signs.some((sign) => sign.sign === 'far from the rest') && r.signs.some((sign) => sign.text === 'given in 40 seconds'),
    );
    expect(far).toBeDefined();
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
    await judge(h, 4);
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
