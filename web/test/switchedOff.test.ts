/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { BatchFields, Plan, PlanItem, PlanUnit } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { askedByItems, askedByUnits, isUnitOff } from '../src/plan/amounts.ts';
import ChoiceInspector from '../src/plan/ChoiceInspector.vue';
import UnitInspector from '../src/plan/UnitInspector.vue';
import { setHooks } from '../src/platform/http.ts';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { planItem } from './planItem.ts';
import { fakeServer, quietEvents, quietHooks } from './server.ts';

beforeEach(() => {
  beginMounting();
  fakeServer();
  setHooks({ ...quietHooks });
  quietEvents();
});
afterEach(endMounting);

const item = (id: string, more: Partial<PlanItem> = {}): PlanItem => planItem('assignment', { id, title: `Report ${id}`, ...more });
const unit = (items: readonly PlanItem[], more: Partial<PlanUnit> = {}): PlanUnit => ({
  ...{ id: 'u', title: 'The train', announcedAt: null, opensAt: null, closesAt: null, isStaffOnly: false, isStanding: false },
  ...{ audience: [], version: 1, items, ...more },
});
const [ON, OFF] = [item('a'), item('b', { isOff: true, isDraftOnceOn: false })];

describe('what units and items ask for', () => {
  it.each([
    [[unit([ON, item('c')])], '2 h · 20 points'],
    [[unit([ON, OFF])], '1 h of 2 h · 10 of 20 points'],
    [[unit([ON]), unit([item('c')], { isStaffOnly: true })], '1 h of 2 h · 10 of 20 points'],
    [[unit([ON, item('c', { isStaffOnly: true })])], '1 h of 2 h · 10 of 20 points'],
    [[unit([ON]), unit([ON])], '1 h · 10 points'],
  ])('leaves out what is off or for staff only: %#', (units, words) => {
    expect(askedByUnits(units)).toBe(words);
  });
  it('is the same of items that are chosen', () => {
    expect(askedByItems([ON, OFF])).toBe('1 h of 2 h · 10 of 20 points');
  });
  it('is nothing in a unit in which everything is off; an empty one is not off', () => {
    expect([isUnitOff(unit([OFF])), isUnitOff(unit([ON, OFF])), isUnitOff(unit([]))]).toEqual([true, false, false]);
  });
});

const press = async (shown: VueWrapper, name: string): Promise<void> => {
  await shown
    .findAll('button')
    .find((b) => b.text() === name)!
    .trigger('click');
  await flushPromises();
};

describe('several items', () => {
  const open = async (items: readonly PlanItem[]): Promise<VueWrapper> => {
    const router = makeTestRouter();
    await router.push('/courses/c/plan');
    return show(
      ChoiceInspector,
      { items, of: 9, plan: { units: [], categories: [] } as unknown as Plan, zone: 'Europe/Lisbon', now: 0 },
      router,
    );
  };
  const sent = (shown: VueWrapper) => {
    const [fields, words] = shown.emitted('change')!.at(-1) as [ReadonlyMap<string, BatchFields>, string];
    return [Object.fromEntries(fields), words];
  };
  it('are switched off and on, those alone that are not so already', async () => {
    const shown = await open([ON, OFF]);
    await press(shown, 'Switch 1 item off');
    expect(sent(shown)).toEqual([
      { a: { isOff: true } },
      'Switched off: 1 item. Students see nothing of what is off, and it counts nowhere.',
    ]);
    await press(shown, 'Switch 1 item on');
    expect(sent(shown)).toEqual([{ b: { isOff: false } }, 'On again as before: 1 item.']);
  });
  it('are opened without what is off, which cannot be', async () => {
    const shown = await open([ON, OFF]);
    await press(shown, 'Open the one draft');
    expect(sent(shown)).toEqual([{ a: { isDraft: false } }, '1 item is open by date.']);
  });
});

describe('a unit', () => {
  const open = (items: readonly PlanItem[], canEdit = true) =>
    show(UnitInspector, { unit: unit(items), canEdit, change: () => Promise.resolve(true) });
  it('is switched off whole, and what is left of it', async () => {
    const whole = await open([ON, item('c')]);
    await press(whole, 'Switch it off');
    expect(whole.emitted('switch')).toEqual([[true]]);
    const part = await open([ON, OFF]);
    expect(part.text()).toContain('Switch the other one off');
    await press(part, 'Switch the one that is off on');
    expect(part.emitted('switch')).toEqual([[false]]);
    expect((await open([OFF])).text()).toContain('Switch it on');
  });
  it('is switched by its instructor alone', async () => {
    expect((await open([ON], false)).text()).not.toContain('Switch');
  });
});
