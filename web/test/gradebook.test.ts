/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { CellSaved, Gradebook } from '@rosemary/api';
import { flushPromises } from '@vue/test-utils';
import { computed, nextTick, ref } from 'vue';
import { copyBlock } from '../src/gradebook/copyBlock.ts';
import { useBook } from '../src/gradebook/useBook.ts';
import { useCellTyping } from '../src/gradebook/useCellTyping.ts';
import { useCellWrites } from '../src/gradebook/useCellWrites.ts';
import { stepOf, useGridCursor } from '../src/gradebook/useGridCursor.ts';
import { useGridModel } from '../src/gradebook/useGridModel.ts';
import { setHooks } from '../src/platform/http.ts';
import { keepFor } from '../src/platform/kept.ts';
import { sendWaiting, stuck } from '../src/platform/unsaved.ts';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { FIRST_CHOICE } from '../src/gradebook/gridChoice.ts';
import { book, cell, row } from './book.ts';
import { beginMounting, endMounting, inPage } from './mounting.ts';
import { fakeServer, quietHooks, Refusal, Silence } from './server.ts';

const CELLS = 'PUT /courses/c/gradebook/cells';
let server: ReturnType<typeof fakeServer>;
let people = 0;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  // Another person each time: nothing that waited for the one before is theirs.
  keepFor(`person ${(people += 1)}`);
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);

/** The gradebook as its page puts it together, with everything but the drawing. */
async function open() {
  server.on('GET /courses/c/gradebook', book);
  const page = await inPage(() => {
    const b = useBook(ref('c'), ref(FIRST_CHOICE), ref({ members: null, letters: '' }), ref(null));
    const model = useGridModel(
      b.ofSection,
      b.columns,
      computed(() => useCourse().sectionId),
      ref('family'),
    );
    const findRow = (id: string) => b.book.value?.rows.find((r) => r.enrolmentId === id) ?? null;
    const columnOf = (id: string) => b.columns.value.find((c) => c.columnId === id) ?? null;
    const writes = useCellWrites(ref('c'), findRow, columnOf, b.accept, b.load);
    const rowOf = (name: string) => b.book.value!.rows.find((r) => r.familyName === name)!;
    const write = (name: string, column: string, raw: number | null) =>
      writes.write({ row: rowOf(name), column: columnOf(column)! }, raw === null ? { state: null, raw } : { state: 'scored', raw });
    return { ...b, ...model, ...writes, rowOf, write };
  });
  await page.load();
  return page;
}
type Page = Awaited<ReturnType<typeof open>>;
async function names(page: Page): Promise<string> {
  await nextTick();
  return page.rows.value.map((r) => r.familyName).join(' ');
}
const saved = (eventId: string | null, fresh: Gradebook['rows'][number]): CellSaved => ({ eventId, row: fresh });

describe('the gradebook in the page', () => {
  it('stands in categories by date, each with its subtotal, what is in none after them, and the totals at the end', async () => {
    const page = await open();
    expect(page.columns.value.map((c) => c.title)).toEqual(['Sooner', 'Later', '100 %', 'Aside', 'So far', 'Floor–reach']);
    expect(page.columns.value.map((c) => c.group)).toEqual(['Bench work', 'Bench work', 'Bench work', 'No category', 'Total', 'Total']);
    expect(page.columns.value.find((c) => c.title === 'Aside')?.isAside).toBe(true);
  });

  it('shows the items of the weeks that are chosen on the term line', async () => {
    const page = await open();
    const course = useCourse();
    course.head = { id: 'c', timeZone: 'Europe/Lisbon', line: { weeks: [{ startsOn: '2026-10-26' }] } } as never;
    course.weeks = [2, 2];
    await nextTick();
    expect(page.columns.value.filter((c) => c.kind === 'graded').map((c) => c.title)).toEqual(['Sooner']);
  });

  it('orders by name, by a score and by the total, as numbers, both ways', async () => {
    const page = await open();
    expect([await names(page), page.sortOf('name')]).toEqual(['Abara Moss Zola', 'ascending']);
    page.sort('soFar');
    expect([await names(page), page.sortOf('soFar'), page.sortOf('name')]).toEqual(['Zola Moss Abara', 'descending', undefined]);
    page.sort('soFar');
    expect(await names(page)).toBe('Abara Moss Zola');
    page.sort('late');
    expect(await names(page)).toBe('Zola Moss Abara');
  });

  it('leaves everybody where they stand when a mark is written, until it is told to sort again', async () => {
    const page = await open();
    page.sort('soFar');
    expect([await names(page), page.isOutOfOrder.value]).toEqual(['Zola Moss Abara', false]);
    server.on(CELLS, () => saved('20', row('3', 'Moss', 's', [cell('20', '20'), 0, 0], '99.0')));
    await page.write('Moss', 'late', 20_000);
    expect([await names(page), page.isOutOfOrder.value]).toEqual(['Zola Moss Abara', true]);
    expect(page.rows.value[1]?.totals.soFar).toBe('99.0');
    page.sortAgain();
    expect([await names(page), page.isOutOfOrder.value]).toEqual(['Moss Zola Abara', false]);
  });

  it('shows whoever joins the course at the end, and no more whoever leaves it', async () => {
    const page = await open();
    const rows = [...book().rows.filter((r) => r.familyName !== 'Moss'), row('4', 'Early', 's', [0, 0, 0], null)];
    server.on('GET /courses/c/gradebook', () => ({ ...book(), rows }));
    await page.load();
    expect(await names(page)).toBe('Abara Zola Early');
  });

  it('orders by the floor where its column is asked to', async () => {
    const page = await open();
    page.sort('range');
    await nextTick();
    expect(page.rows.value.map((r) => r.totals.floor)).toEqual(['80.0', '9.5', '0']);
  });

  it('keeps to the section chosen for all views, and is in order again when everybody is shown', async () => {
    const page = await open();
    useCourse().sectionId = 's';
    expect(await names(page)).toBe('Moss Zola');
    useCourse().sectionId = null;
    expect(await names(page)).toBe('Abara Moss Zola');
  });

  it('reads the whole book again where a row that changed is of somebody new', async () => {
    const page = await open();
    server.on('GET /courses/c/gradebook/rows/1', () => row('1', 'Zola', 's', [cell('1', '50'), 0, 0], '5.0'));
    await page.loadRows(['1']);
    expect(page.rowOf('Zola').totals.soFar).toBe('5.0');
    server.on('GET /courses/c/gradebook', () => ({ ...book(), rows: [...book().rows, row('9', 'New', 's', [0, 0, 0], null)] }));
    await page.loadRows(['9']);
    expect(await names(page)).toBe('Abara Moss Zola New');
  });
});

describe('a cell that is written', () => {
  it('shows at once, names the event that was seen, takes the saved row, and can be undone', async () => {
    const page = await open();
    let answer: (given: CellSaved) => void = () => undefined;
    server.on(CELLS, () => new Promise((done) => (answer = done)));
    server.on('POST /courses/c/gradebook/undo', () => saved('21', book().rows[0]!));
    const written = page.write('Zola', 'late', 16_000);
    expect([...page.pending.value]).toEqual([['cell late 1', '16']]);
    await flushPromises();
    answer(saved('20', row('1', 'Zola', 's', [cell('16', '20'), cell('9', '11'), 0], '82.0')));
    await written;
    expect(page.pending.value.size).toBe(0);
    expect(server.bodies(CELLS)[0]).toMatchObject({ columnId: 'late', enrolmentId: '1', raw: 16_000, seenEventId: '10' });
    expect(page.rowOf('Zola').totals.soFar).toBe('82.0');
    expect(useNotices().notice?.text).toBe('Zola, G · Later: 16.');
    // The student had seen the one before: why is asked beside what goes on.
    expect(page.changedAfter.value).toEqual({ who: 'G Zola', title: 'Later', eventId: '20' });
    await useNotices().notice?.undo?.();
    expect(server.bodies('POST /courses/c/gradebook/undo')).toEqual([{ eventId: '20' }]);
    expect(page.rowOf('Zola').totals.soFar).toBe('80.0');
  });

  it('is written once more only after the write before it is there, so that nobody meets their own change', async () => {
    const page = await open();
    let event = 20;
    server.on(CELLS, ({ body }) => {
      const raw = (body as { raw: number }).raw;
      return saved(String(event), row('1', 'Zola', 's', [cell(String(raw / 1000), String(event++)), 0, 0], '82.0'));
    });
    await Promise.all([page.write('Zola', 'late', 16_000), page.write('Zola', 'late', 17_000)]);
    expect(server.bodies(CELLS)).toMatchObject([
      { raw: 16_000, seenEventId: '10' },
      { raw: 17_000, seenEventId: '20' },
    ]);
  });

  it('asks before a score above the points, and writes it when told so', async () => {
    const page = await open();
    server.on(CELLS, ({ body }) =>
      (body as { isAboveConfirmed: boolean }).isAboveConfirmed ? saved('30', book().rows[0]!) : new Refusal(409, 'confirm'),
    );
    await page.write('Zola', 'late', 99_000);
    expect(page.asked.value).toMatchObject({ who: 'G Zola', title: 'Later', text: 'refused: confirm', theirs: null, mine: '99' });
    await page.asked.value?.go();
    expect(server.bodies(CELLS)).toHaveLength(2);
  });

  it('shows both values when somebody else wrote it meanwhile, and writes over theirs only when told', async () => {
    const page = await open();
    server.on(CELLS, ({ body }) =>
      (body as { seenEventId: string }).seenEventId === '40'
        ? saved('41', book().rows[0]!)
        : new Refusal(409, 'conflict', { current: { raw: 12_500, state: 'scored', eventId: '40' } }),
    );
    await page.write('Zola', 'late', 16_000);
    expect(page.asked.value).toMatchObject({ theirs: '12.5', mine: '16' });
    expect(server.bodies(CELLS)).toHaveLength(1);
    await page.asked.value?.go();
    expect(server.bodies(CELLS).at(-1)).toMatchObject({ raw: 16_000, seenEventId: '40' });
  });

  it('waits in this browser while the server is silent, says so, and is sent when it answers', async () => {
    const page = await open();
    server.on(CELLS, () => new Silence());
    await page.write('Zola', 'late', 16_000);
    expect([...page.pending.value]).toEqual([['cell late 1', '16']]);
    expect(stuck.value.map((one) => [one.title, one.why])).toEqual([['Zola, G · Later', 'There is no connection.']]);
    server.on(CELLS, () => saved('20', row('1', 'Zola', 's', [cell('16', '20'), 0, 0], '82.0')));
    await sendWaiting();
    expect([stuck.value.length, page.pending.value.size, page.rowOf('Zola').totals.soFar]).toEqual([0, 0, '82.0']);
    expect(server.bodies(CELLS).at(-1)).toMatchObject({ raw: 16_000, seenEventId: '10' });
  });

  it('that was refused when it was sent later asks here, and stays listed until it is answered', async () => {
    const page = await open();
    server.on(CELLS, () => new Silence());
    await page.write('Zola', 'late', 16_000);
    server.on(CELLS, () => new Refusal(409, 'conflict', { current: { raw: 12_500, state: 'scored', eventId: '40' } }));
    await sendWaiting();
    expect(page.asked.value).toMatchObject({ theirs: '12.5', mine: '16' });
    expect(stuck.value).toMatchObject([{ isRefused: true, why: 'refused: conflict' }]);
    server.on(CELLS, () => saved('41', book().rows[0]!));
    await page.asked.value?.go();
    expect(stuck.value).toEqual([]);
  });
});

describe('what is typed into a cell', () => {
  const typing = async (name: string, columnId: string, isEditor = true) => {
    const page = await open();
    const wishes: unknown[] = [];
    const chosen = computed(() => ({ row: page.rowOf(name), column: page.columns.value.find((c) => c.key === columnId)! }));
    const own = useCellTyping(
      chosen,
      () => [],
      computed(() => isEditor),
      (_, wish) => wishes.push(wish),
    );
    return { own, wishes };
  };

  it('stands over what is there, or with it, and unchanged writes nothing', async () => {
    const { own, wishes } = await typing('Zola', 'late');
    expect(own.start(null)).toBe(true);
    expect(own.text.value).toBe('15');
    expect(own.keep()).toBe(true);
    expect([own.text.value, wishes]).toEqual([null, []]);
    own.start('7');
    own.retype('75 %');
    expect(own.keep()).toBe(true);
    expect(wishes).toEqual([{ state: 'scored', raw: 15_000 }]);
  });

  it('stays to be mended where it cannot be read, with the reason', async () => {
    const { own, wishes } = await typing('Zola', 'late');
    own.start('x');
    expect(own.keep()).toBe(false);
    expect(own.fault.value).toContain('“x” is not a number of points');
    own.leave();
    expect([own.text.value, own.fault.value, wishes]).toEqual([null, '', []]);
  });

  it('is not begun in a number that is computed, nor by whoever may only look', async () => {
    expect((await typing('Zola', 'soFar')).own.start('1')).toBe(false);
    expect((await typing('Zola', 'late', false)).own.start('1')).toBe(false);
  });

  it('is refused with its reason where the item is not for this student', async () => {
    server.on('GET /courses/c/gradebook', book);
    const { own } = await typing('Abara', 'late');
    const outside = ref({
      row: row('2', 'Abara', 't', [['outside', '', 1, 0, null, 0, null], 0, 0], null),
      column: { kind: 'graded', place: 0, title: 'Later' },
    });
    const other = useCellTyping(
      outside as never,
      () => [],
      ref(true),
      () => undefined,
    );
    expect([own.start('1'), other.start('1')]).toEqual([true, false]);
    expect(useNotices().notice?.text).toBe('“Later” is not for G. Change in the Plan who it is for.');
  });
});

describe('the chosen cell', () => {
  const cursor = () => {
    const revealed: unknown[] = [];
    const own = useGridCursor(
      () => ({ rows: 5, columns: 4 }),
      (place) => revealed.push(place),
    );
    return { own, revealed };
  };

  it('never leaves the grid, and is brought into view', () => {
    const { own, revealed } = cursor();
    own.goTo(9, -3);
    expect([own.at.value, revealed[0]]).toEqual([
      { row: 4, column: 0 },
      { row: 4, column: 0 },
    ]);
    own.move(-1, 1);
    expect(own.at.value).toEqual({ row: 3, column: 1 });
  });

  it('stays where it went while an answer was on its way, and with its student where rows change places', async () => {
    const [people, columns] = [ref([{ enrolmentId: 'a' }, { enrolmentId: 'b' }]), ref([{ key: 'x' }, { key: 'y' }])];
    const cursor = await inPage(() => {
      const made = useGridCursor(
        () => ({ rows: people.value.length, columns: columns.value.length }),
        () => undefined,
      );
      made.follow(people, columns);
      return made;
    });
    cursor.choose({ row: 0, column: 0 });
    // The rows are asked for here; before they come, one goes on.
    cursor.choose({ row: 1, column: 1 });
    people.value = [{ enrolmentId: 'a' }, { enrolmentId: 'b' }];
    await nextTick();
    expect(cursor.at.value).toEqual({ row: 1, column: 1 });
    people.value = [{ enrolmentId: 'n' }, { enrolmentId: 'b' }, { enrolmentId: 'a' }];
    columns.value = [{ key: 'y' }, { key: 'x' }];
    await nextTick();
    expect(cursor.at.value).toEqual({ row: 1, column: 0 });
    people.value = [{ enrolmentId: 'a' }];
    await nextTick();
    expect(cursor.at.value).toBeNull();
  });

  it('shows the gradebook that was asked for last, whichever answer comes first', async () => {
    const page = await open();
    let slow: (read: Gradebook) => void = () => undefined;
    server.on('GET /courses/c/gradebook', () => new Promise<Gradebook>((done) => (slow = done)));
    const first = page.load();
    await flushPromises();
    const late = slow;
    server.on('GET /courses/c/gradebook', book);
    await page.load();
    late({ ...book(), rows: [] });
    await first;
    expect(page.book.value?.rows).toHaveLength(3);
  });

  it('is drawn out to a block, from where it began, in any direction', () => {
    const { own } = cursor();
    own.choose({ row: 2, column: 2 });
    expect(own.block.value).toEqual({ top: 2, bottom: 2, left: 2, right: 2 });
    own.move(1, 1, true);
    own.move(-3, -2, true);
    expect(own.block.value).toEqual({ top: 0, bottom: 2, left: 1, right: 2 });
    own.move(0, 1);
    expect(own.block.value).toEqual({ top: 0, bottom: 0, left: 2, right: 2 });
  });

  it.each([
    ['ArrowDown', false, [1, 0]],
    ['ArrowDown', true, [5, 0]],
    ['ArrowLeft', false, [0, -1]],
    ['ArrowRight', true, [0, 4]],
    ['Home', false, [0, -4]],
    ['End', true, [5, 4]],
    ['PageUp', false, [-20, 0]],
    ['a', false, null],
  ])('goes by %s (with Ctrl: %s)', (key, ctrlKey, step) => {
    expect(stepOf(new KeyboardEvent('keydown', { key, ctrlKey }), { rows: 5, columns: 4 })).toEqual(step);
  });

  it('is copied with its block as any spreadsheet takes it', async () => {
    const page = await open();
    expect(copyBlock(page.rows.value, page.columns.value, { top: 1, bottom: 2, left: 0, right: 4 })).toBe(
      '\t2\t9.5\t\t9.5\n9\t15\t80.0\t\t80.0',
    );
  });
});
