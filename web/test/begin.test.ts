/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { FirstSteps as First, PublicHolidays } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import FirstSteps from '../src/begin/FirstSteps.vue';
import { keep } from '../src/platform/kept.ts';
import { setHooks } from '../src/platform/http.ts';
import HolidayOffer from '../src/school/HolidayOffer.vue';
import TermsPart from '../src/school/TermsPart.vue';
import { useSession } from '../src/stores/sessionStore.ts';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { fakeServer, quietHooks, Refusal } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  server = fakeServer();
  setHooks({ ...quietHooks });
});
afterEach(endMounting);
const press = async (shown: VueWrapper, words: string): Promise<void> => {
  const button = shown.findAll('button').find((b) => b.text() === words);
  if (button === undefined) throw new Error(`no button “${words}” in ${shown.text()}`);
  await button.trigger('click');
  await flushPromises();
};
const COURSE: NonNullable<First['course']> = {
  ...{ id: 'c', title: 'Clocks', teachers: 'Tea Cher', isOwn: true },
  ...{ sampleId: 'sample', drafts: 0 },
};
const steps = (done: string, ...names: First['steps'][number]['name'][]): First['steps'] =>
  names.map((name) => ({ name, isDone: done.includes(name) }));

describe('the first steps', () => {
  it('name the next one, lead to where it is done, and are gone once all are', async () => {
    let first: First = { steps: steps('students', 'students', 'page', 'open', 'see'), course: COURSE };
    server.on('GET /courses/c/first-steps', () => first);
    const shown = await show(FirstSteps, { courseId: 'c', stamp: 1 }, makeTestRouter());
    await flushPromises();
    expect(shown.find('[aria-current=step]').text()).toBe('A first unit and page');
    expect(shown.text()).toContain('1 of 4 done.');
    first = { steps: steps('students page', 'students', 'page', 'open', 'see'), course: { ...COURSE, drafts: 2 } };
    await shown.setProps({ stamp: 2 });
    await flushPromises();
    expect(shown.text()).toContain('holds 2 drafts. Check it, then open the course and its drafts together.');
    expect(shown.find('a.go-on').attributes('href')).toContain('/courses/c/check');
    first = { steps: [], course: COURSE };
    await shown.setProps({ stamp: 3 });
    await flushPromises();
    expect(shown.find('section').exists()).toBe(false);
  });

  it('make the first unit and its page in the line, and lead to the page', async () => {
    const router = makeTestRouter();
    server.on('GET /courses/c/first-steps', () => ({ steps: steps('students', 'students', 'page', 'open', 'see'), course: COURSE }));
    const sent: unknown[] = [];
    server.on('POST /courses/c/units', ({ body }) => {
      sent.push(body);
      return { plan: { units: [{ id: 'standing' }, { id: 'unit' }] } };
    });
    server.on('POST /courses/c/items', ({ body }) => {
      sent.push(body);
      return { id: 'made', plan: { units: [] } };
    });
    const shown = await show(FirstSteps, { courseId: 'c' }, router);
    await flushPromises();
    const [unit, page] = shown.findAll('form input');
    await unit?.setValue(' Beginnings ');
    await page?.setValue('Welcome');
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(sent).toEqual([
      { title: 'Beginnings', isStanding: false },
      { unitId: 'unit', kind: 'page', title: 'Welcome', position: 0 },
    ]);
    expect(shown.emitted('added')).toHaveLength(1);
    expect(router.currentRoute.value.params).toMatchObject({ itemId: 'made' });
  });

  it('leave to whoever teaches the course what is theirs to do', async () => {
    server.on('GET /school/first-steps', () => ({
      steps: steps('term people course', 'term', 'people', 'course', 'students', 'page', 'open', 'see'),
      course: { ...COURSE, isOwn: false },
    }));
    const shown = await show(FirstSteps, { courseId: null }, makeTestRouter());
    await flushPromises();
    expect(shown.text()).toContain('Tea Cher can do this next.');
    expect(shown.find('a.go-on').exists()).toBe(false);
    expect(shown.findAll('li a').map((a) => a.text())).toEqual(['A term', 'Someone who teaches', 'A course']);
  });

  it('are seen through the sample student, which is noted before the view is a student’s', async () => {
    server.on('GET /courses/c/first-steps', () => ({
      steps: steps('students page open', 'students', 'page', 'open', 'see'),
      course: COURSE,
    }));
    let seenAs: unknown = 'never noted';
    server.on('PUT /courses/c/first-steps/seen', () => {
      seenAs = useSession().seeAs;
      return {};
    });
    server.on('GET /courses/c', () => ({ id: 'c', timeZone: 'UTC', line: { weeks: [] }, sections: [], now: '2026-11-18T10:00:00Z' }));
    const shown = await show(FirstSteps, { courseId: 'c' }, makeTestRouter());
    await flushPromises();
    await press(shown, 'See it as a student');
    expect(seenAs).toBeNull();
    expect(useSession().seeAs).toEqual({ courseId: 'c', enrolmentId: 'sample', on: null });
    useSession().leaveSeeAs();
  });

  it('are hidden when asked to be, and stay so', async () => {
    server.on('GET /courses/c/first-steps', () => ({ steps: steps('', 'students', 'page', 'open', 'see'), course: COURSE }));
    const shown = await show(FirstSteps, { courseId: 'c' }, makeTestRouter());
    await flushPromises();
    await press(shown, 'Hide these steps');
    expect(shown.find('section').exists()).toBe(false);
    const again = await show(FirstSteps, { courseId: 'c' }, makeTestRouter());
    await flushPromises();
    expect(again.find('section').exists()).toBe(false);
  });
});

describe('the holidays of a term', () => {
  const HOLIDAYS: PublicHolidays = {
    holidays: [
      { title: 'Republic Day', startsOn: '2026-10-05', endsOn: '2026-10-05' },
      { title: 'All Saints’ Day', startsOn: '2026-11-01', endsOn: '2026-11-01' },
      { title: 'New Year', startsOn: '2026-12-31', endsOn: '2027-01-02' },
    ],
    regions: [{ code: 'N', name: 'North' }],
  };
  const offer = { from: '2026-09-21', to: '2027-01-03', meetingDays: [1, 2, 3, 4, 5], there: [] as PublicHolidays['holidays'] };
  beforeEach(() => {
    keep('country of holidays', 'PT');
    server.on('GET /public-holidays/countries', () => ({ countries: [{ code: 'PT', name: 'Portugal' }] }));
  });

  it('are ticked where somebody meets, and added at once', async () => {
    server.on('GET /public-holidays?country=PT&from=2026-09-21&to=2027-01-03', () => HOLIDAYS);
    const shown = await show(HolidayOffer, offer, makeTestRouter());
    await flushPromises();
    expect(shown.findAll('li').map((li) => li.text())).toEqual([
      expect.stringContaining('Republic Day'),
      expect.stringContaining('no meeting day'),
      expect.stringContaining('to Sat 2 Jan 2027'),
    ]);
    await press(shown, 'Add these 2 holidays');
    expect(shown.emitted('add')?.[0]?.[0]).toEqual([HOLIDAYS.holidays[0], HOLIDAYS.holidays[2]]);
    // What is in the term is not offered again.
    await shown.setProps({ there: HOLIDAYS.holidays });
    expect(shown.text()).toContain('All of them are in the term.');
  });

  it('wait for the days of the term, and say why there are none', async () => {
    server.on('GET /public-holidays?country=PT&from=2026-09-21&to=2027-01-03', () => new Refusal(422, 'invalid'));
    const shown = await show(HolidayOffer, { ...offer, to: '' }, makeTestRouter());
    await flushPromises();
    expect(shown.text()).toContain('once the first and the last day are set');
    await shown.setProps({ to: '2027-01-03' });
    await flushPromises();
    expect(shown.find('[role=alert]').exists()).toBe(true);
  });

  it('stand in the form with what was typed, which a reload keeps', async () => {
    server.on('GET /public-holidays?country=PT&from=2026-09-21&to=2027-01-03', () => HOLIDAYS);
    const shown = await show(TermsPart, { terms: [] }, makeTestRouter());
    await flushPromises();
    await shown.find('input[required]').setValue('Autumn');
    await flushPromises();
    const again = await show(TermsPart, { terms: [] }, makeTestRouter());
    await flushPromises();
    expect((again.find('input[required]').element as HTMLInputElement).value).toBe('Autumn');
  });
});
