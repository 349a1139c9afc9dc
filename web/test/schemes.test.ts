/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { KeptScheme } from '@rosemary/api';
import type { VueWrapper } from '@vue/test-utils';
import { setHooks } from '../src/platform/http.ts';
import ScaleDialog from '../src/plan/ScaleDialog.vue';
import SchemeShelf from '../src/parts/SchemeShelf.vue';
import { beginMounting, endMounting, show } from './mounting.ts';
import { fakeServer, quietHooks } from './server.ts';

/** Schemes kept to be used again, and names by which one item is read. */
let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  beginMounting();
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);

const levels = [
  { label: 'secure', cutPoint: 70_000, value: null },
  { label: 'beginning', cutPoint: 0, value: null },
];
const kept = (more: Partial<KeptScheme> = {}): KeptScheme => ({
  id: 'k1',
  title: 'Stages',
  scheme: { levels, passPercent: 70_000 },
  isShared: false,
  isOwn: true,
  owner: 'Ines Moura',
  ...more,
});
const open = async (title = 'Chains') => {
  server.on('GET /kept-schemes', () => [kept(), kept({ id: 'k2', title: 'Bands', isOwn: false, owner: 'Tomas Reyl' })]);
  return show(SchemeShelf, { scheme: { levels, passPercent: null }, title });
};

const begin = async (shown: VueWrapper, title: string) => {
  await shown
    .findAll('button')
    .find((b) => b.text().includes('Begin with a scheme'))!
    .trigger('click');
  await shown
    .findAll('[role="menuitem"]')
    .find((b) => b.text() === title)!
    .trigger('click');
};

describe('the shelf of schemes', () => {
  it('offers one’s own, those shared here and those to begin with, and gives what is taken', async () => {
    const shown = await open();

    await begin(shown, 'Bands, by Tomas Reyl');
    expect(shown.emitted('take')?.at(-1)?.[0]).toEqual({ levels, passPercent: 70_000 });
    const other = await open();
    await begin(other, 'Pass or not');
    expect((other.emitted('take')?.at(-1)?.[0] as { levels: { label: string }[] }).levels.map((l) => l.label)).toEqual([
      'Pass',
      'Not passed',
    ]);
  });

  it('keeps the one at hand by the title of what it is used for, or by one that is typed', async () => {
    const shown = await open();
    server.on('POST /kept-schemes', () => [kept()]);
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Keep this one')!
      .trigger('click');
    expect(server.bodies('POST /kept-schemes').at(-1)).toMatchObject({ title: 'Chains', scheme: { levels, passPercent: null } });
  });

  it('lists those one keeps, to share and to remove', async () => {
    const shown = await open();
    await shown
      .findAll('button')
      .find((b) => b.text() === 'those I keep')!
      .trigger('click');
    expect(shown.text()).toContain('Stages');
    expect(shown.text()).not.toContain('Bands shared');
    server.on('PATCH /kept-schemes/k1', () => [kept({ isShared: true })]);
    await shown.find('input[aria-label="Share Stages"]').setValue(true);
    expect(server.bodies('PATCH /kept-schemes/k1').at(-1)).toEqual({ isShared: true });
  });
});

describe('names of its own', () => {
  const dialog = async (own: typeof levels | null) => {
    server.on('GET /kept-schemes', () => []);
    return show(ScaleDialog, { title: 'Chains', levels: own });
  };
  const press = async (shown: Awaited<ReturnType<typeof dialog>>, word: string) => {
    await shown
      .findAll('button')
      .find((b) => b.text() === word)!
      .trigger('click');
  };

  it('begin with bands in words, and are used as they stand', async () => {
    const shown = await dialog(null);
    await shown.find('input[aria-label="Name of Good"]').setValue('Solid');
    await shown.find('form').trigger('submit');
    expect((shown.emitted('use')?.at(-1)?.[0] as { label: string }[]).map((l) => l.label)).toEqual([
      'Excellent',
      'Solid',
      'Sound',
      'Weak',
      'Not yet',
    ]);
    expect(shown.text()).not.toContain('Use the letters of the course');
  });

  it('go, so that the letters of the course hold again', async () => {
    const shown = await dialog(levels);
    await press(shown, 'Use the letters of the course');
    expect(shown.emitted('use')?.at(-1)).toEqual([null]);
    expect(shown.emitted('close')).toHaveLength(1);
  });

  it('are needed to be used: without any the mend is said', async () => {
    const shown = await dialog(levels);
    await shown.find('button[aria-label="Remove secure"]').trigger('click');
    await shown.find('button[aria-label="Remove beginning"]').trigger('click');
    expect(shown.text()).toContain('Add a name to use them.');
  });
});
