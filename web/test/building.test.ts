import type { FileStore, Objectives, PlanItem, StoreFile, Touched } from '@rosemary/api';
import { createPinia, setActivePinia } from 'pinia';
import { ref } from 'vue';
import { useStore } from '../src/files/useStore.ts';
import { useObjectives } from '../src/objectives/useObjectives.ts';
import { usePlan } from '../src/plan/usePlan.ts';
import { setHooks } from '../src/platform/http.ts';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { useTouched } from '../src/stores/touchedStore.ts';
import { moreOf, rowOf, tabTitle, viewOf } from '../src/shell/views.ts';
import { fakeServer, fakeStorage, quietHooks, Refusal, until } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  setActivePinia(createPinia());
  globalThis.localStorage = fakeStorage();
  server = fakeServer();
  server.on('GET /courses/c', () => ({ id: 'c', isOpen: true, line: { weeks: [] }, sections: [] }));
  setHooks(quietHooks);
});
const notice = () => useNotices().notice;

describe('the objectives of a course', () => {
  const objective = (id: string, parentId: string | null = null) => ({
    id,
    parentId,
    code: id.toUpperCase(),
    statement: `Can ${id}`,
    position: 0,
    version: 3,
    uses: [],
  });
  const all: Objectives = { objectives: [objective('a'), objective('a1', 'a'), objective('a2', 'a'), objective('b')] };
  const open = async () => {
    server.on('GET /courses/c/objectives', () => all);
    const o = useObjectives(ref('c'));
    await o.load();
    return o;
  };

  it('know how deep each stands', async () => {
    expect((await open()).shown.value.map((s) => [s.id, s.depth])).toEqual([
      ['a', 0],
      ['a1', 1],
      ['a2', 1],
      ['b', 0],
    ]);
  });
  it('move among those below the same parent, and no further', async () => {
    const o = await open();
    server.on('PATCH /courses/c/objectives/a2', () => all);
    await o.move(o.shown.value[2]!, -1);
    expect(server.bodies('PATCH /courses/c/objectives/a2')).toEqual([{ position: 0, version: 3 }]);
    await o.move(o.shown.value[2]!, 1);
    expect(server.bodies('PATCH /courses/c/objectives/a2')).toHaveLength(1);
  });
  it('go in below the one before them, and out beside their parent', async () => {
    const o = await open();
    server.on('PATCH /courses/c/objectives/a2', () => all);
    await o.indent(o.shown.value[2]!, 1);
    await o.indent(o.shown.value[2]!, -1);
    expect(server.bodies('PATCH /courses/c/objectives/a2')).toEqual([
      { parentId: 'a1', version: 3 },
      { parentId: null, version: 3 },
    ]);
    await o.indent(o.shown.value[0]!, -1);
    expect(server.sent.filter((s) => s.method === 'PATCH')).toHaveLength(2);
  });
  it('are deleted with undo; a conflict reads them afresh', async () => {
    const o = await open();
    server.on('DELETE /courses/c/objectives/b', () => ({ objectives: all.objectives.slice(0, 3) }));
    server.on('POST /courses/c/objectives/b/restore', () => all);
    await o.remove(o.shown.value[3]!);
    expect(o.shown.value).toHaveLength(3);
    await notice()?.undo?.();
    expect(o.shown.value).toHaveLength(4);
    server.on('PATCH /courses/c/objectives/a', () => new Refusal(409, 'conflict'));
    await o.change(o.shown.value[0]!, { code: 'X' });
    expect(server.sent.filter((s) => s.method === 'GET' && s.path === '/courses/c/objectives')).toHaveLength(2);
  });
  it('say what went wrong when they cannot be read', async () => {
    server.on('GET /courses/c/objectives', () => new Refusal(403, 'refused'));
    const o = useObjectives(ref('c'));
    await o.load();
    expect([o.all.value, o.fault.value]).toEqual([null, 'refused: refused']);
  });
});

describe('the files of a course', () => {
  const file = (more: Partial<StoreFile> = {}): StoreFile => ({
    id: 'f',
    name: 'chart.pdf',
    size: 1,
    mediaType: 'application/pdf',
    isPicture: false,
    url: '/f',
    folderId: null,
    opensAt: null,
    closesAt: null,
    addedAt: '',
    addedBy: '',
    version: 1,
    uses: [],
    past: [],
    ...more,
  });
  const store = (...files: StoreFile[]): FileStore => ({ folders: [], files, bytes: 1 });

  it('are renamed with undo, which names the version that stands then', async () => {
    server.on('GET /courses/c/file-store', () => store(file()));
    server.on('PATCH /courses/c/files/f', () => store(file({ name: 'new.pdf', version: 2 })));
    const s = useStore(ref('c'));
    await s.load();
    await s.changeFile(file(), { name: 'new.pdf' }, 'Renamed.');
    expect(s.store.value?.files[0]?.name).toBe('new.pdf');
    await notice()?.undo?.();
    expect(server.bodies('PATCH /courses/c/files/f')).toEqual([
      { name: 'new.pdf', version: 1 },
      { name: 'chart.pdf', version: 2 },
    ]);
  });
  it('that are shown somewhere are not deleted, and it is said where', async () => {
    server.on('POST /courses/c/files/removals', () => new Refusal(409, 'not-now', { detail: '“chart.pdf” is shown in “Oil”.' }));
    server.on('GET /courses/c/file-store', () => store(file()));
    const s = useStore(ref('c'));
    await s.load();
    await s.removeFiles([file()]);
    expect(notice()?.text).toContain('shown in “Oil”');
    expect(s.store.value?.files).toHaveLength(1);
  });
  it('are deleted together with one undo', async () => {
    server.on('POST /courses/c/files/removals', () => store());
    server.on('POST /courses/c/files/restorals', () => store(file(), file({ id: 'g' })));
    const s = useStore(ref('c'));
    await s.removeFiles([file(), file({ id: 'g' })]);
    expect(notice()?.text).toBe('2 files are deleted.');
    await notice()?.undo?.();
    expect(server.bodies('POST /courses/c/files/restorals')).toEqual([{ fileIds: ['f', 'g'] }]);
    expect(s.store.value?.files).toHaveLength(2);
  });
});

const touched = (students: number, begun: number): Touched => ({ students, begun, sections: [] });

describe('a change to something running', () => {
  it('is for everyone, unasked, where nobody has begun', async () => {
    expect(await useTouched().ask('X', touched(10, 0))).toBe('everyone');
    expect(useTouched().touched).toBeNull();
  });
  it('waits for whom it shall be, and may be left', async () => {
    const store = useTouched();
    const asked = store.ask('X', touched(10, 4));
    expect(store.title).toBe('X');
    store.close('not begun');
    expect(await asked).toBe('not begun');
    const left = store.ask('X', touched(10, 4));
    store.close(null);
    expect(await left).toBeNull();
  });

  const item = {
    id: 'i',
    title: 'Report',
    isDraft: false,
    version: 1,
    dueAt: '2026-11-17T18:00:00Z',
    audience: [{ sectionId: 's', enrolmentId: null, name: 'Morning' }],
    variants: [{ sectionId: null, enrolmentId: 'e', name: 'Ada', opensAt: null, dueAt: '2026-11-18T18:00:00Z', closesAt: null }],
  } as unknown as PlanItem;
  const open = async () => {
    server.on('GET /courses/c/plan', () => ({ units: [{ id: 'u', title: 'U', version: 1, items: [item] }] }));
    server.on('PATCH /courses/c/items/i', () => ({ ...item, version: 2, rows: [] }));
    const p = usePlan(ref('c'));
    await useCourse().load('c');
    await p.load();
    return p;
  };

  it('asks whom new dates are for, and sends it; undo puts back what was set for single students first', async () => {
    const p = await open();
    server.on('GET /courses/c/items/i/touched', () => touched(48, 41));
    server.on('PUT /courses/c/items/i/variants', () => ({ ...item, version: 3 }));
    const done = p.changeItem(item, { dueAt: '2026-11-20T18:00:00Z' });
    await until(() => useTouched().touched !== null);
    useTouched().close('not begun');
    expect(await done).toBe(true);
    const sent = server.bodies('PATCH /courses/c/items/i');
    expect(sent.at(-1)).toEqual({ dueAt: '2026-11-20T18:00:00Z', whom: 'not begun', version: 1 });
    await notice()?.undo?.();
    expect(server.bodies('PUT /courses/c/items/i/variants')).toEqual([
      { variants: [{ sectionId: null, enrolmentId: 'e', opensAt: null, dueAt: '2026-11-18T18:00:00Z', closesAt: null }] },
    ]);
    expect(server.bodies('PATCH /courses/c/items/i').at(-1)).toEqual({ dueAt: '2026-11-17T18:00:00Z', version: 3 });
  });
  it('left alone sends nothing', async () => {
    const p = await open();
    server.on('GET /courses/c/items/i/touched', () => touched(48, 41));
    const done = p.changeItem(item, { dueAt: null });
    await until(() => useTouched().touched !== null);
    useTouched().close(null);
    expect(await done).toBe(false);
    expect(server.bodies('PATCH /courses/c/items/i')).toEqual([]);
  });
  it('whom it is for is taken back without names', async () => {
    const p = await open();
    expect(await p.changeItem(item, { audience: [] })).toBe(true);
    await notice()?.undo?.();
    expect(server.bodies('PATCH /courses/c/items/i').at(-1)).toEqual({ audience: [{ sectionId: 's', enrolmentId: null }], version: 2 });
  });
  it('other fields ask nobody', async () => {
    const p = await open();
    expect(await p.changeItem(item, { estimatedMinutes: 40 })).toBe(true);
    expect(server.sent.some((s) => s.path.endsWith('/touched'))).toBe(false);
  });
});

describe('the title of a tab', () => {
  it('says the most specific first', () => {
    expect(tabTitle('item', 'Foundations', 'Condition report')).toBe('Condition report · Foundations · Rosemary');
    expect(tabTitle('quiz-results', 'Foundations', 'Trains')).toBe('Trains · Results · Foundations · Rosemary');
    expect(tabTitle('gradebook', 'Foundations', null)).toBe('Gradebook · Foundations · Rosemary');
    expect(tabTitle('taking', 'Foundations', 'Trains')).toBe('Trains · Quiz · Foundations · Rosemary');
    expect(tabTitle('desk', 'Foundations', null)).toBe('Desk · Rosemary');
    expect(tabTitle('', null, null)).toBe('Rosemary');
  });
});

describe('the views of a course', () => {
  it('stand under the view they belong to', () => {
    expect([viewOf('item', false), viewOf('time', false), viewOf('carry', false), viewOf('work', false)]).toEqual([
      'plan',
      'plan',
      'plan',
      'marking',
    ]);
    expect([viewOf('programme', false), viewOf('programme', true), viewOf('study-item', true)]).toEqual(['plan', 'study', 'study']);
    const words = (list: readonly (readonly [string, string])[]): string => list.map(([, word]) => word).join(' · ');
    expect(words(rowOf(false))).toBe('Plan · Marking · Gradebook · Progress · Roster · Bank');
    expect(words(rowOf(true))).toBe('This week · Course · Grades · Messages');
    expect(words(moreOf('assistant'))).toBe('Messages · Announcements · Calendar · Files · Groups · Objectives · Settings');
    expect(words(moreOf('instructor'))).toBe(
      'Messages · Announcements · Calendar · Files · Groups · Objectives · Settings · Import and export · History and deleted',
    );
    expect(words(moreOf('student'))).toBe('Progress · Announcements · Calendar');
  });
});
