import * as api from '@rosemary/api/endpoints';
import type { RippleAnswer, StackEntry } from '@rosemary/api';
import { createPinia, setActivePinia } from 'pinia';
import { ref } from 'vue';
import { useStack } from '../src/marking/useStack.ts';
import { readKept } from '../src/platform/kept.ts';
import { call, rippleOf, takeBack } from '../src/platform/call.ts';
import { setHooks } from '../src/platform/http.ts';
import { usePlan } from '../src/plan/usePlan.ts';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { useRipple } from '../src/stores/rippleStore.ts';
import { fakeServer, fakeStorage, Held, quietHooks, Refusal, Silence, until } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  setActivePinia(createPinia());
  globalThis.localStorage = fakeStorage();
  server = fakeServer();
  server.on('GET /courses/c', () => ({ id: 'c', line: { weeks: [] }, sections: [] }));
  setHooks(quietHooks);
});

const ripple = (move: 'rises' | 'falls'): RippleAnswer => ({
  rows: [
    {
      id: 'e',
      name: 'Abiola, Tunde',
      before: '70.0',
      after: '72.0',
      letterBefore: 'C',
      letterAfter: 'C',
      change: '2',
      move,
      crosses: false,
      floor: null,
      reach: null,
    },
  ],
  rise: move === 'rises' ? 1 : 0,
  fall: 0,
  cross: 0,
  others: '',
  sentence: '',
  levels: [],
});

describe('a change that may move grades', () => {
  const at = { courseId: 'c', unitId: 'u' };
  const change = { title: 'Later', version: 1 };
  const path = 'PATCH /courses/c/units/u';

  it('is done in one request where nobody moves', async () => {
    server.on(path, () => ({ units: [] }));
    expect(await call(api.changeUnit, at, change, '“Later”')).toEqual({ units: [] });
    expect(useRipple().answer).toBeNull();
    expect(server.sent.map((s) => s.headers['x-ripple'])).toEqual(['mind']);
  });

  it.each([true, false])('waits for the person where somebody moves (applied: %p)', async (isApplied) => {
    server.on(path, ({ headers }) => (headers['x-ripple'] === 'mind' ? new Held(ripple('rises')) : { units: [] }));
    const asked = call(api.changeUnit, at, change, '“Later”');
    await until(() => useRipple().answer !== null);
    expect(useRipple().title).toBe('“Later”');
    useRipple().close(isApplied);
    expect(await asked).toEqual(isApplied ? { units: [] } : null);
    expect(server.sent.map((s) => s.headers['x-ripple'])).toEqual(isApplied ? ['mind', undefined] : ['mind']);
    expect(useRipple().answer).toBeNull();
  });

  it('shows no ripple where the change itself is refused', async () => {
    server.on(path, () => new Refusal(422, 'invalid', { pointers: [{ field: 'title', text: 'too long' }] }));
    await expect(call(api.changeUnit, at, change, '“Later”')).rejects.toThrow('refused: invalid');
  });

  it('is taken back by the endpoint that its own names, and nobody is asked again', async () => {
    server.on('POST /courses/c/units/u/restore', () => ({ units: ['back'] }));
    expect(await takeBack(api.removeUnit, at)).toEqual({ units: ['back'] });
    server.on(path, () => ({ units: ['before'] }));
    expect(await takeBack(api.changeUnit, at, { title: 'Earlier', version: 2 })).toEqual({ units: ['before'] });
    expect(server.sent.map((s) => [s.method, s.headers['x-ripple']])).toEqual([
      ['POST', undefined],
      ['PATCH', undefined],
    ]);
  });

  it('can be looked at without being made', async () => {
    server.on('PUT /courses/c/policy', () => ripple('falls'));
    await rippleOf(api.changePolicy, { courseId: 'c' }, {} as never);
    expect(server.sent[0]?.headers['x-ripple']).toBe('show');
  });
});

describe('the Plan in the page', () => {
  const item = (id: string, version = 1): object => ({ id, title: `Item ${id}`, version, possible: 10_000, variants: [] });
  const plan = (...units: { id: string; items: object[] }[]): object => ({
    units: units.map((u) => ({ title: u.id, version: 1, ...u })),
    categories: [],
  });
  async function open() {
    server.on('GET /courses/c/plan', () => plan({ id: 'u', items: [item('a'), item('b')] }, { id: 'v', items: [item('d')] }));
    const p = usePlan(ref('c'));
    await p.load();
    return p;
  }
  const order = (p: ReturnType<typeof usePlan>): string => p.units.value.map((u) => u.items.map((i) => i.id).join('')).join('|');

  it('moves an item within its unit and over its edges, and writes the whole order', async () => {
    const p = await open();
    const written: string[] = [];
    server.on('PUT /courses/c/order', ({ body }) => {
      const { units } = body as { units: { id: string; itemIds: string[] }[] };
      written.push(units.map((u) => u.itemIds.join('')).join('|'));
      return plan(...units.map((u) => ({ id: u.id, items: u.itemIds.map((id) => item(id)) })));
    });
    p.moveItem('a', 1);
    await until(() => written.length === 1);
    p.moveItem('a', 1);
    await until(() => written.length === 2);
    p.moveItem('d', -1);
    await until(() => written.length === 3);
    p.moveItem('b', -1);
    expect(written).toEqual(['ba|d', 'b|ad', 'b|da']);
    expect(order(p)).toBe('b|da');
  });

  it('takes a move back by writing the order before it', async () => {
    const p = await open();
    const written: unknown[] = [];
    server.on('PUT /courses/c/order', ({ body }) => {
      written.push(body);
      const { units } = body as { units: { id: string; itemIds: string[] }[] };
      return plan(...units.map((u) => ({ id: u.id, items: u.itemIds.map((id) => item(id)) })));
    });
    const before = p.orderOf(p.units.value);
    p.moveUnit('u', 1);
    await until(() => useNotices().notice !== null);
    expect(useNotices().notice?.text).toBe('“u” moved.');
    await useNotices().notice?.undo?.();
    expect(written.at(-1)).toEqual(before);
    expect(order(p)).toBe('ab|d');
  });

  it('leaves the order as it was where it would move somebody’s total and the person leaves it', async () => {
    const p = await open();
    const written: unknown[] = [];
    server.on('PUT /courses/c/order', ({ body, headers }) => {
      if (headers['x-ripple'] === 'mind') return new Held(ripple('falls'));
      written.push(body);
      return {};
    });
    p.moveItem('a', 1);
    await until(() => useRipple().answer !== null);
    expect(useRipple().title).toBe('The new order');
    expect(order(p)).toBe('ba|d');
    useRipple().close(false);
    await until(() => order(p) === 'ab|d');
    expect(written).toEqual([]);
  });

  it('sends one’s own quick changes one after another, each with the version the last one made', async () => {
    const p = await open();
    let version = 1;
    server.on('PATCH /courses/c/items/a', ({ body }) => {
      const change = body as { version: number };
      if (change.version !== version) return new Refusal(409, 'conflict');
      version += 1;
      return { ...item('a', version), ...change, version };
    });
    const a = p.units.value[0]!.items[0]!;
    const all = await Promise.all([
      p.changeItem(a, { estimatedMinutes: 20 }),
      p.changeItem(a, { possible: 20_000 }),
      p.changeItem(a, { categoryId: 'k' }),
    ]);
    expect(all).toEqual([true, true, true]);
    expect(version).toBe(4);
    expect(server.bodies('PATCH /courses/c/items/a').map((b) => (b as { version: number }).version)).toEqual([1, 2, 3]);
  });

  it('changes nothing when the ripple was left', async () => {
    const p = await open();
    server.on('PATCH /courses/c/items/a', () => new Held(ripple('rises')));
    const asked = p.changeItem(p.units.value[0]!.items[0]!, { possible: 5000 });
    await until(() => useRipple().answer !== null);
    useRipple().close(false);
    expect(await asked).toBe(false);
    expect(server.sent.filter((s) => s.method === 'PATCH' && s.headers['x-ripple'] !== 'mind')).toEqual([]);
  });

  it('shows the Plan afresh when another changed it meanwhile', async () => {
    const p = await open();
    server.on('PUT /courses/c/order', () => new Refusal(409, 'conflict'));
    server.on('GET /courses/c/plan', () => plan({ id: 'u', items: [item('z')] }));
    p.moveItem('a', 1);
    await until(() => order(p) === 'z');
    expect(useNotices().notice).toMatchObject({ isFault: true, text: 'refused: conflict' });
  });
});

describe('the stack in the page', () => {
  const entry = (id: string, more: Partial<StackEntry>): StackEntry =>
    ({
      enrolmentId: id,
      givenName: 'G',
      familyName: id,
      sectionId: 's',
      section: 'Morning',
      state: 'waits',
      handedInAt: null,
      lateText: null,
      scoreText: null,
      words: 0,
      attempt: 1,
      files: 0,
      marker: null,
      notes: 0,
      sharedTo: [],
      members: [],
      group: '',
      isVeiled: false,
      hasNewWords: false,
      matchPercent: null,
      ...more,
    }) as StackEntry;
  const entries = [
    entry('Ash', { handedInAt: '2026-11-17T10:00:00Z', words: 300 }),
    entry('Birch', { handedInAt: '2026-11-15T10:00:00Z', lateText: '1 hour late', words: 100 }),
    entry('Cedar', { state: 'missing', sharedTo: ['Ada Mowbray'] }),
    entry('Dogwood', {
      state: 'released',
      handedInAt: '2026-11-10T10:00:00Z',
      scoreText: '45 of 60',
      words: 900,
      sectionId: 't',
      matchPercent: 12,
    }),
  ];
  async function open() {
    server.on('GET /courses/c/marking/i', () => ({ entries, waits: 2, estimate: null, releasable: 0, item: {} }));
    for (const e of entries)
      server.on(`GET /courses/c/marking/i/${e.enrolmentId}`, () => ({ entry: e, mark: { version: 0, state: 'draft' } }));
    const s = useStack(ref('c'), ref('i'));
    await s.load();
    return s;
  }
  const names = (s: ReturnType<typeof useStack>): string => s.shown.value.map((e) => e.familyName).join(' ');

  it('begins with what has waited longest, and keeps everybody in it', async () => {
    expect(names(await open())).toBe('Birch Ash Dogwood Cedar');
  });

  it('says what could not be read only until it can be', async () => {
    const s = await open();
    server.on('GET /courses/c/marking/i', () => new Silence());
    await s.load();
    expect(s.fault.value).not.toBe(null);
    server.on('GET /courses/c/marking/i', () => ({ entries, waits: 2, estimate: null, releasable: 0, item: {} }));
    await s.load();
    expect([s.fault.value, names(s)]).toEqual([null, 'Birch Ash Dogwood Cedar']);
  });

  it.each([
    ['name', 'Ash Birch Cedar Dogwood'],
    ['length', 'Dogwood Ash Birch Cedar'],
    ['score', 'Dogwood Ash Birch Cedar'],
    ['late', 'Ash Birch Dogwood Cedar'],
    ['match', 'Dogwood Ash Birch Cedar'],
  ] as const)('can be ordered by %s, and stays so next time', async (order, expected) => {
    const s = await open();
    s.order.value = order;
    expect(names(s)).toBe(expected);
    expect(readKept('stack order')).toBe(order);
  });

  it('is filtered by state, by lateness, by name, by who has it to mark and by section', async () => {
    const s = await open();
    s.filter.value = 'missing';
    expect(names(s)).toBe('Cedar');
    s.filter.value = 'late';
    expect(names(s)).toBe('Birch');
    s.filter.value = 'dog';
    expect(names(s)).toBe('Dogwood');
    s.filter.value = 'Mowbray';
    expect(names(s)).toBe('Cedar');
    s.filter.value = '';
    useCourse().sectionId = 't';
    expect(names(s)).toBe('Dogwood');
  });

  it('keeps its order while one marks, so that the place is not lost', async () => {
    const s = await open();
    await s.open('Birch');
    s.setMark('Birch', { state: 'draft' } as never);
    expect(names(s)).toBe('Birch Ash Dogwood Cedar');
    expect(s.shown.value[0]?.state).toBe('in hand');
  });

  it('has the works beside the open one loaded before they are asked for', async () => {
    const s = await open();
    await s.open('Ash');
    await until(() => server.sent.filter((x) => x.path.startsWith('/courses/c/marking/i/')).length === 3);
    expect(server.sent.map((x) => x.path).filter((p) => p.startsWith('/courses/c/marking/i/'))).toEqual([
      '/courses/c/marking/i/Ash',
      '/courses/c/marking/i/Dogwood',
      '/courses/c/marking/i/Birch',
    ]);
    const before = server.sent.length;
    await s.open('Birch');
    expect(s.work.value?.entry.familyName).toBe('Birch');
    expect(server.sent.slice(before).map((x) => x.path)).not.toContain('/courses/c/marking/i/Birch');
  });
});
