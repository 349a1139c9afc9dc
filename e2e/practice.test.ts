import { By, Key } from 'selenium-webdriver';
import { hands, startRosemary, type Rosemary } from './rosemary.ts';

/** What a teacher does in an evening: a list of questions as they have it becomes a quiz, and the rest of the term moves by a week. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let courseId: string;
beforeAll(async () => {
  rosemary = await startRosemary('practice', true);
  h = hands(rosemary);
  await h.signInDemo('Ines');
  courseId = (await rosemary.query("select id from course where code = 'HOR-110' and is_open order by created_at desc limit 1")).rows[0]
    .id as string;
}, 240_000);
afterAll(() => rosemary.close());

/** Where a total would move its ripple stands first; where none does it is done at once. */
const applied = (words: string): Promise<boolean | void> =>
  h.eventually(async () => {
    const [apply] = await rosemary.driver.findElements(By.xpath('//*[contains(@class, "ripple")]//button[normalize-space(.)="Apply"]'));
    await apply?.click().catch(() => undefined);
    return h.has(words);
  }, words);

/** Twenty questions in the styles in which teachers send them to one another. */
const LIST = `Week 10: locks and springs

Part A: Multiple choice
1. Which part locks the escape wheel? [2 marks]
A. the roller
B. the pallet stone
C. the barrel
Answer: B
2) Which holds the outer end of the hairspring?
a) the collet
*b) the stud
c) the balance cock
3. Which of these lower the amplitude? (select all)
( ) a new strap
(*) thick oil
(*) a set mainspring
4. The jewel of the roller is made of A) brass B) ruby C) steel
Ans: B
5. Which oil suits a balance pivot?
A. **a thin one**
B. a thick one
6. Which tool holds a jewel?
[ ] pliers
[x] tweezers
7. What drives the train?
- the balance
- the mainspring (correct)
8. Which comes first?
(A) drop
(B) lock
9. Which comes last?
(A) drop
(B) lock

Part B: True or false
10. The lever is held by draw. (T)
11. The roller drives the train. False
12. T/F Oil spreads on a clean pivot.
Answer: True

Part C
13. How many beats an hour at 8 a second? (1.5 points)
Answer: 28800
14. How long is the pivot?
→ 0.07 ± 0.01 mm
15. Which part carries the pallets?
Answer: lever; the lever
16. After ____ comes ____.
Answers: lock, drop
17. The [lever] is moved by the [roller jewel].
18. Match each part with what it does.
lever\\tcarries the pallets
jewel\\tmoves the lever
19. Explain why the drop must be even. (4 points)
Model answer: Both pallets must lock alike.
20. Describe how you would test it.
Feedback: Name the instrument.

Key
8. B
9. A`.replaceAll('\\t', '\t');

describe('a list of twenty questions', () => {
  it('is read with its keys, mended beside the list, and becomes the paper', async () => {
    const { units } = await h.api<{ units: { id: string }[] }>('GET', `/courses/${courseId}/plan`);
    const made = await h.api<{ id: string }>('POST', `/courses/${courseId}/items`, {
      ...{ unitId: units.at(-1)?.id, kind: 'quiz', title: 'Locks, springs and oil', position: 0 },
    });
    await h.go(`/courses/${courseId}/items/${made.id}`);
    await h.click(h.button('paste a list'));
    await rosemary.driver.executeScript(
      "const f = document.querySelector('textarea[aria-label=\"The list\"]'); f.value = arguments[0]; f.dispatchEvent(new Event('input', { bubbles: true }))",
      LIST,
    );
    await h.text('20 questions, 24.5 points');
    expect(await h.isAccessible()).toEqual([]);
    // What is lacking or doubted is counted; here every question has its key.
    expect(await rosemary.driver.findElements({ css: '.found .clay' })).toHaveLength(0);
    await h.text('Left out as titles: “Week 10: locks and springs”');
    // One is meant otherwise: the thick oil, and worth more.
    await h.click(h.field('Right: a thick one'));
    await h.fill(h.field('Points of question 5'), `3${Key.TAB}`);
    await h.text('20 questions, 26.5 points');
    await h.click(h.button('Make 20 questions'));
    await h.eventually(
      async () => (await rosemary.driver.findElements({ css: '.paper .q' })).length === 20,
      'twenty questions on the paper',
    );
    const { rows } = await rosemary.query(
      `select v.kind, v.key from quiz_part p join quiz_section s on s.id = p.section_id join question_version v on v.question_id = p.question_id
       where s.item_id = $1 order by s.position, p.position`,
      [made.id],
    );
    expect(rows.map((row) => row.kind as string).join(' ')).toBe(
      'single single several single single single single single single truth truth truth numeric numeric short blanks blanks matching essay essay',
    );
    type Choices = { choices: { share: number }[] };
    const right = rows.slice(0, 12).map((row) => (row.key as Choices).choices.map((c) => (c.share > 0 ? '1' : '0')).join(''));
    expect(right).toEqual(['010', '010', '011', '010', '01', '01', '01', '01', '10', '10', '01', '10']);
  }, 180_000);
});

describe('the rest of the term', () => {
  const dates = async (): Promise<string> =>
    (
      await rosemary.query(
        "select string_agg(title || ' ' || due_at::text, '; ' order by id) as text from item where course_id = $1 and due_at is not null",
        [courseId],
      )
    ).rows[0].text as string;

  it('moves by a teaching week, its Fridays to Thursday, each date seen old and new; one Undo takes all of it back', async () => {
    const before = await dates();
    await h.go(`/courses/${courseId}/plan`);
    await h.click(h.button('Dates'));
    await h.text('Dates', 'h2');
    await h.text('nothing moves yet');
    // Some sit at a check that opened today: it stays out of this.
    await h.set(h.field('Only dates from'), '2026-11-19');
    await h.fill(h.field('Teaching weeks, - is earlier'), '1');
    await h.set(h.field('Fri becomes'), '4');
    await h.text('dates move');
    const row = await h.css('tbody tr');
    expect(await row.getText()).not.toContain('as it is');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Move '));
    await applied('dates are moved.');
    const { rows } = await rosemary.query(
      "select title, extract(isodow from due_at at time zone 'Europe/Lisbon')::int as day from item where course_id = $1 and due_at > '2026-11-25' and removed_at is null",
      [courseId],
    );
    expect(rows.length).toBeGreaterThan(3);
    expect(rows.every((one) => one.day !== 5)).toBe(true);
    expect(await dates()).not.toBe(before);
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await dates()) === before, 'every date is where it was');
  }, 180_000);

  it('has its dates cleared by their kinds, and given back', async () => {
    await h.go(`/courses/${courseId}/dates`);
    const opens = async (): Promise<number> =>
      Number(
        (await rosemary.query('select count(*) as n from item where course_id = $1 and opens_at > $2', [courseId, '2026-11-19'])).rows[0].n,
      );
    const many = await opens();
    expect(many).toBeGreaterThan(0);
    await h.set(h.field('Only dates from'), '2026-11-19');
    await h.set(h.field('What is done'), 'clear');
    for (const field of ['announced from', 'due', 'closes', 'published', 'units', 'announcements']) await h.click(h.field(field));
    await h.click(h.button('Clear '));
    await applied('cleared.');
    await h.eventually(async () => (await opens()) < many, 'the opening times are gone');
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await opens()) === many, 'the opening times are back');
    expect(await h.consoleErrors()).toEqual([]);
  }, 120_000);
});

describe('two items for two classes', () => {
  it('are chosen in the Plan, given by one drag, opened with words of their own, told, followed on one board; one Undo takes all back', async () => {
    const { units } = await h.api<{ units: { items: { id: string; title: string; kind: string; dueAt: string | null }[] }[] }>(
      'GET',
      `/courses/${courseId}/plan`,
    );
    const [first, second] = units.flatMap((u) => u.items).filter((i) => i.kind === 'assignment' && (i.dueAt ?? '') > '2026-11-20');
    const many = async (): Promise<number> =>
      Number((await rosemary.query('select count(*) as n from item where course_id = $1 and removed_at is null', [courseId])).rows[0].n);
    const before = await many();
    await h.go(`/courses/${courseId}/plan`);
    for (const item of [first, second]) {
      const line = await h.css(`#row-${item?.id} .date`);
      await rosemary.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', line);
      await rosemary.driver.actions().keyDown(Key.CONTROL).click(line).keyUp(Key.CONTROL).perform();
    }
    await h.text('2 of ');
    await h.click(h.button('Give to classes'));
    await h.text('nothing is made yet');
    const cells = await rosemary.driver.findElements({ css: '.pick-grid td' });
    const across = cells.length / 2;
    await h.drag(cells[0]!, cells[across + 1]!);
    await h.text('2 items for 2 classes');
    await h.click(h.field('open at once'));
    await h.type(h.field('Said first to the class'), 'Bring your own loupe.');
    // What is chosen is there again after a reload.
    await h.go(await rosemary.driver.getCurrentUrl().then((url) => url.slice(rosemary.url.length)));
    await h.text('“Bring your own loupe.”');
    expect(await h.isAccessible()).toEqual([]);
    await h.click(h.button('Give 4 copies'));
    await applied('4 copies are given');
    await h.text('Given to classes', 'h2');
    await h.text('0 of 21 in');
    expect(await h.isAccessible()).toEqual([]);
    expect(await many()).toBe(before + 4);
    // A student of the first class finds it open, with the words first, and was told.
    const { rows } = await rosemary.query(
      `select i.id, n.words from item i join given_item g on g.item_id = i.id and g.of_item_id = $1 join section s on s.id = g.section_id
       join enrolment e on e.section_id = s.id and e.role = 'student' join notice n on n.person_id = e.person_id and n.words like '%new items are open' limit 1`,
      [first?.id],
    );
    expect(rows[0]?.words).toBe('2 new items are open');
    await h.click(h.button('Undo'));
    await h.eventually(async () => (await many()) === before, 'the copies are gone');
    expect(await h.consoleErrors()).toEqual([]);
  }, 180_000);
});
