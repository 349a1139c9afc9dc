import { hands, startRosemary, type Rosemary } from './rosemary.ts';
// @ts-expect-error the start scripts are plain modules
import { setSize } from '../scripts/browser.mjs';

/** Every view as it opens, at the widths people have: nothing that an eye, a hand or a reader cannot use. */
let rosemary: Rosemary;
let h: ReturnType<typeof hands>;
let base = '';
/** The course in which students review each other. */
let reviewed = '';
let sampleId = '';
const ids = new Map<string, string>();
interface Plan {
  readonly units: readonly { readonly items: readonly { readonly id: string; readonly title: string }[] }[];
}
beforeAll(async () => {
  rosemary = await startRosemary('every_view', true);
  h = hands(rosemary);
  await h.signInDemo('Ines Okafor-Lind');
  const me = await h.api<{ courses: { id: string; code: string; run: string }[] }>('GET', '/me');
  base = `/courses/${me.courses.find((c) => c.code === 'HOR-110' && c.run === 'autumn')?.id ?? ''}`;
  const plan = await h.api<Plan>('GET', `${base}/plan`);
  reviewed = `/courses/${me.courses.find((c) => c.code === 'HOR-205')?.id ?? ''}`;
  const other = await h.api<Plan>('GET', `${reviewed}/plan`);
  for (const { id, title } of other.units.flatMap((u) => u.items)) ids.set(title, id);
  for (const { id, title } of plan.units.flatMap((u) => u.items)) ids.set(title, id);
  const { samples } = await h.api<{ samples: { id: string }[] }>('GET', `${reviewed}/items/${of('Which oil, and why')}/peer`);
  sampleId = samples[0]?.id ?? '';
}, 120_000);
afterAll(() => rosemary?.close());

const of = (title: string): string => ids.get(title) ?? '';
const STAFF: readonly (() => string)[] = [
  () => '/',
  () => '/calendar',
  () => '/outbox',
  () => '/account',
  () => '/courses/new',
  ...[
    'plan',
    'marking',
    'gradebook',
    'policy',
    'finals',
    'progress',
    'roster',
    'bank',
    'messages',
    'announcements',
    'calendar',
    'files',
  ].map((view) => () => `${base}/${view}`),
  ...['groups', 'objectives', 'settings', 'exchange', 'programme', 'check', 'carry', 'dates', 'given', 'time'].map(
    (view) => () => `${base}/${view}`,
  ),
  () => `${base}/plan?item=${of('Condition report')}`,
  () => `${base}/items/${of('Condition report')}`,
  () => `${base}/items/${of('Counting a train')}`,
  () => `${reviewed}/items/${of('Which oil, and why')}/peer`,
  () => `${reviewed}/items/${of('Restoration plan')}/reviews`,
  () => `${reviewed}/items/${of('Which oil, and why')}/peer/samples/${sampleId}`,
  () => `${base}/stacks/${of('Condition report')}`,
  () => `${base}/marking/${of('Condition report')}`,
  ...['', '/results', '/figures', '/paper', '/preview'].map((view) => () => `${base}/quizzes/${of('Trains and locks')}${view}`),
];
const ADMINISTRATOR = ['/school', '/school/lists', '/school/registrar', '/school/storage', '/school/progress'].map((path) => () => path);
const STUDENT: readonly (() => string)[] = [
  () => '/this-week',
  () => '/account',
  ...['week', 'study', 'grades', 'messages', 'announcements', 'calendar', 'programme', 'my-progress'].map(
    (view) => () => `${base}/${view}`,
  ),
  () => `${base}/study/${of('Condition report')}`,
  () => `${base}/study/${of('Counting a train')}`,
  () => `${base}/study/${of('Hairspring check')}`,
];
async function look(paths: readonly (() => string)[], width: number, height: number): Promise<void> {
  await setSize(rosemary.driver, width, height);
  const found: [path: string, faults: string[]][] = [];
  for (const path of paths) {
    await h.go(path());
    await h.css('main :is(h1, h2, h3)');
    const faults = await h.isAccessible();
    if (faults.length > 0) found.push([path().replace(/[0-9a-f-]{36}/g, '…'), faults]);
  }
  expect(found).toEqual([]);
}

describe('every view', () => {
  it.each([
    [1280, 800],
    [1024, 768],
  ])('of those who teach can be used at %d wide', (width, height) => look(STAFF, width, height), 240_000);

  it('of the administrator can be used', async () => {
    await h.signInDemo('Aurelio Brandt');
    await look(ADMINISTRATOR, 1024, 768);
  }, 120_000);

  it('of a student can be used on a phone', async () => {
    await h.signInDemo('Ondine Garrick');
    await look(STUDENT, 390, 844);
  }, 180_000);

  it('leaves no error in the console', async () => {
    expect(await h.consoleErrors()).toEqual([]);
  });
});
