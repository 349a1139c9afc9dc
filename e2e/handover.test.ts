import { jest } from '@jest/globals';
import { Key } from 'selenium-webdriver';
import { Registrar, serveRegistrar, type Section } from '@rosemary/standins';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** The day at the end of the term: final grades agreed, sent with refusals and an outage, mended, read back; and a student who sees theirs. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let registrar: Registrar;
let served: Awaited<ReturnType<typeof serveRegistrar>>;
let base = '';
jest.setTimeout(300_000);
const NOW = '2026-11-18T10:20:00Z';

beforeAll(async () => {
  registrar = new Registrar({
    token: 'a journey',
    file: null,
    window: { opensAt: '2026-11-16T08:00:00Z', closesAt: '2026-11-20T17:00:00Z' },
    now: () => Date.parse(NOW),
  });
  served = await serveRegistrar(registrar, 0);
  process.env.ROSEMARY_REGISTRAR_URL = served.url;
  process.env.ROSEMARY_REGISTRAR_TOKEN = 'a journey';
  rosemary = await startRosemary('handover', true);
  h = hands(rosemary);
  const { rows } = await rosemary.query(
    `select coalesce(s.source, s.id::text) as section, s.title, t.email::text as teacher, coalesce(p.source, p.id::text) as key, p.family_name as name
     from enrolment e join section s on s.id = e.section_id join person p on p.id = e.person_id
     join enrolment i on i.course_id = e.course_id and i.role = 'instructor' and i.is_of_record join person t on t.id = i.person_id
     where e.role = 'student' and not e.is_sample`,
  );
  const sections: Record<string, Section> = {};
  for (const { section, title, teacher, key, name } of rows as {
    section: string;
    title: string;
    teacher: string;
    key: string;
    name: string;
  }[]) {
    sections[section] ??= { title, teacher, students: [] };
    sections[section].students.push({ key, name });
  }
  registrar.set({ sections });
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string }[] }>('GET', '/me');
  base = `/courses/${me.courses.find((c) => c.code === 'HOR-205')?.id ?? ''}`;
});
afterAll(async () => {
  delete process.env.ROSEMARY_REGISTRAR_URL;
  delete process.env.ROSEMARY_REGISTRAR_TOKEN;
  await rosemary?.close();
  await served?.stop();
});

interface Finals {
  readonly rows: readonly {
    readonly enrolmentId: string;
    readonly familyName: string;
    readonly givenName: string;
    readonly sectionId: string;
    readonly calculated: { readonly percent: string | null };
    readonly row: { readonly state: string } | null;
  }[];
}
const finals = (): Promise<Finals> => h.api<Finals>('GET', `${base}/finals`);
const held = () => Object.values(registrar.held.grades);
const states = async (): Promise<string> => [...new Set((await finals()).rows.map((r) => r.row?.state ?? 'none'))].sort().join(' ');

describe('the end of a term', () => {
  it('shows what is calculated, what the registrar would have for it, and what to look at first', async () => {
    await h.go(`${base}/gradebook`);
    await h.click(h.button('Final grades'));
    await h.text('The registrar’s window closes');
    await h.text('0 of 26 chosen');
    await h.click(h.css('.finals details summary'));
    await h.text('works are handed in and not marked');
    for (const finding of [
      '1 student has no result yet.',
      'was in another section when the grade was agreed.',
      'is calculated otherwise now than when agreed.',
      'lacks something that the registrar needs.',
      'cannot be told to the registrar',
      'question dropped after it was taken',
      'unfinished and left out of the total',
    ])
      await h.text(finding);
    expect(await h.isAccessible()).toEqual([]);
  });

  it('has the letter that is missing set by the administrator', async () => {
    await h.signInDemo('Aurelio Brandt');
    await h.go('/school/registrar');
    await h.text('Instructor of record');
    await h.text('Excellent →');
    expect(await h.isAccessible()).toEqual([]);
    await h.set(h.css('[aria-label="Registrar’s letter for Weak"]'), 'D');
    await h.text('“Weak” is sent as D.');
    await h.signInDemo('Ines Okafor-Lind');
    await h.go(`${base}/finals`);
    await h.text('0 of 26 chosen');
    expect(await h.has('cannot be told to the registrar')).toBe(false);
  });

  it('agrees on all as they are calculated, on one with a reason, on one as incomplete', async () => {
    await h.click(h.css('[aria-label="Choose all that are shown, over all pages"]'));
    await h.text('26 of 26 chosen');
    await h.click(h.button('Agree as calculated'));
    await h.text('has no calculated letter that the registrar takes. Choose a letter, with a reason.');
    const { rows } = await finals();
    const second = rows.find((r) => r.calculated.percent === null)!;
    const first = rows.find((r) => r !== second)!;
    await h.click(h.css(`[aria-label="Choose ${second.givenName} ${second.familyName}"]`));
    await h.text('25 of 26 chosen');
    await h.click(h.button('Agree as calculated'));
    await h.text('25 grades agreed.');
    await h.click(h.button(`${first.familyName}, ${first.givenName}`));
    await h.set(h.field('Letter that is agreed'), 'A-');
    await h.click(h.button('Agree anew'));
    await h.text('say why A- stands instead of');
    await h.fill(h.field('Why it stands instead'), 'Oral examination');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Agree anew'));
    await h.text('Oral examination', '*');
    await h.click(h.button(`${second.familyName}, ${second.givenName}`));
    await h.set(h.field('Letter that is agreed'), 'I');
    await h.fill(h.field('Why it stands instead'), 'Was ill');
    await (await h.field('May be finished until')).sendKeys('1 Feb 2027', Key.ENTER);
    await h.set(h.field('The letter it becomes when nothing comes'), 'F');
    await h.click(h.css('.form-acts button[type="submit"]'));
    await h.text('Agreed: I');
  });

  it('sends two sections, learns who is refused and what to do, and sends these again', async () => {
    const section = Object.values(registrar.held.sections).find((s) => s.title === 'Weekend')!;
    const away = section.students.pop()!;
    await h.click(h.css('[aria-label="Choose all that are shown, over all pages"]'));
    await h.click(h.button('Send 26 grades'));
    await h.text('26 grades are on the way.');
    await h.text('1 refused');
    await h.text('Check the student’s key in the roster, then send the row again.');
    expect(held()).toHaveLength(25);
    section.students.push(away);
    await h.set(h.field('Grades that are shown'), 'refused');
    await h.click(h.css('[aria-label="Choose all that are shown, over all pages"]'));
    await h.click(h.button('Send 1 grade'));
    await h.eventually(async () => (await states()) === 'accepted', 'not accepted');
    expect(held()).toHaveLength(26);
    await h.text('The grades are closed since');
    expect(await h.isAccessible()).toEqual([]);
  });

  it('reads back what the registrar holds, and has the record of each section', async () => {
    await h.set(h.field('Grades that are shown'), 'all');
    const other = Object.keys(registrar.held.grades)[0]!;
    const held = registrar.held.grades[other]!;
    registrar.held.grades[other] = { ...held, letter: held.letter === 'D' ? 'C' : 'D' };
    for (const section of ['Day', 'Weekend']) await h.click(h.css(`section[aria-label="${section}"] button`));
    await h.text('1 difference.');
    await h.text('each as it was agreed.');
    const record = await (await h.css('section[aria-label="Day"] a')).getAttribute('href');
    expect((await h.download(record ?? '')).subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('corrects one through an outage and the end of the server, stored once', async () => {
    await h.click(h.button('Open them again'));
    await h.fill(h.field('Why they are opened again'), 'Added up wrongly');
    await h.click(h.button('Open the grades'));
    await h.gone('.closed');
    const first = (await finals()).rows[0]!;
    await h.click(h.button(`${first.familyName}, ${first.givenName}`));
    await h.set(h.field('Letter that is agreed'), 'B+');
    await h.fill(h.field('Why it stands instead'), 'Added up wrongly');
    await h.click(h.button('Agree anew'));
    await h.text('Agreed: B+');
    registrar.set({ mood: { outage: 'stores then fails', percent: 100, delay: 0 } });
    await h.click(h.css(`[aria-label="Choose ${first.givenName} ${first.familyName}"]`));
    await h.fill(h.field('Why they are corrected'), 'Added up wrongly');
    await h.click(h.button('Send 1 grade'));
    await h.text('unknown: the registrar has not answered');
    rosemary.kill();
    await rosemary.restart();
    registrar.set({ mood: { outage: 'none', percent: 100, delay: 0 } });
    await h.go(`${base}/finals`);
    await h.click(h.css(`[aria-label="Choose ${first.givenName} ${first.familyName}"]`));
    await h.click(h.button('Try now'));
    await h.eventually(async () => (await finals()).rows[0]?.row?.state === 'accepted', 'not accepted');
    const corrected = held().filter((g) => g.corrects !== null);
    expect(corrected.map((g) => g.letter)).toEqual(['B+']);
    expect(held()).toHaveLength(26);
  });

  it('lets students see what was agreed, and ask about it', async () => {
    await h.set(h.field('What students see'), 'agreed');
    await h.text('From when (empty: at once)');
    const { rows } = await rosemary.query(
      `select p.email::text as email from enrolment e join person p on p.id = e.person_id where e.id = $1`,
      [(await finals()).rows.find((r) => r.calculated.percent === null)?.enrolmentId],
    );
    await h.go('/sign-in');
    await h.api('POST', '/sign-out');
    await h.api('POST', '/sign-in', { email: (rows[0] as { email: string }).email, password: 'tallowmere-bench' });
    await h.go(`${base}/grades`);
    await h.text('Final grade: I');
    await h.text('It may be finished until');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Ask about this grade'));
    await h.text('Messages');
  });

  it('leaves no error in the console', async () => {
    expect(await h.consoleErrors()).toEqual([]);
  });
});
