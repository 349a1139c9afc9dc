/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { AgreedView, FinalRow, FinalsView, RowView, SchoolHandover } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import AgreePart from '../src/handover/AgreePart.vue';
import FinalsPage from '../src/handover/FinalsPage.vue';
import ReopenPart from '../src/handover/ReopenPart.vue';
import SectionPart from '../src/handover/SectionPart.vue';
import { asCalculated, stageOf } from '../src/handover/useFinals.ts';
import { setHooks } from '../src/platform/http.ts';
import { keepFor, readKept } from '../src/platform/kept.ts';
import RegistrarPage from '../src/school/RegistrarPage.vue';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import FinalPart from '../src/student/FinalPart.vue';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { fakeServer, quietHooks, Refusal } from './server.ts';

/** Final grades in the interface: agreed, sent, read back; the school’s page; and the student’s own. */
let server: ReturnType<typeof fakeServer>;
let people = 0;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  keepFor(`finals person ${(people += 1)}`);
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);

const agreed = (more: Partial<AgreedView> = {}): AgreedView => ({
  ...{ id: '7', at: '2026-11-17T10:00:00Z', who: 'Ines Moura', sentLetter: 'B', letter: 'Good', percent: '74.3' },
  ...{ calculatedLetter: 'Good', calculatedPercent: '74.3', isOverride: false, reason: '' },
  ...{ lastDay: null, lastDayFrom: '', expiresOn: null, lapsesTo: null },
  ...more,
});
const sent = (more: Partial<RowView> = {}): RowView => ({
  ...{ id: 'r', state: 'accepted', agreedId: '7', sentLetter: 'B', receipt: 'R-1', says: '', mend: '' },
  ...{ at: '2026-11-17T11:00:00Z', who: 'Ines Moura', nextTryAt: null, isCorrection: false },
  ...more,
});
const person = (id: string, familyName: string, more: Partial<FinalRow> = {}): FinalRow => ({
  ...{ enrolmentId: id, familyName, givenName: 'G', sectionId: 's', standing: 'enrolled' },
  calculated: { percent: '74.3', letter: 'Good', sentLetter: 'B' },
  ...{ agreed: null, moved: null, movedFrom: null, lastDays: [], faults: [], row: null },
  ...more,
});
const rules: NonNullable<FinalsView['rules']> = {
  letters: [
    { letter: 'A', needsLastDay: false, isIncomplete: false },
    { letter: 'B', needsLastDay: false, isIncomplete: false },
    { letter: 'F', needsLastDay: true, isIncomplete: false },
    { letter: 'I', needsLastDay: false, isIncomplete: true },
  ],
  takesNumber: false,
  takesLastDay: true,
  takesExpiry: true,
  takesLapse: true,
};
const view = (more: Partial<FinalsView> = {}): FinalsView => ({
  rules,
  registrar: {
    ...{ isSet: true, askedAt: '2026-11-18T10:19:00Z', fault: '' },
    ...{ opensAt: '2026-11-16T08:00:00Z', closesAt: '2026-11-20T17:00:00Z' },
  },
  ...{ labels: ['Good'], gaps: [], findings: [], shows: 'none', shownFrom: null, closedAt: null, version: 0 },
  sections: [{ id: 's', title: 'Day', students: 3, agreed: 0, accepted: 0, refused: 0, underWay: 0, records: [] }],
  rows: [person('1', 'Abara'), person('2', 'Moss', { agreed: agreed() }), person('3', 'Zola', { agreed: agreed(), row: sent() })],
  ...{ canAgree: true, canSend: true, needsApproval: false },
  ...more,
});
const inCourse = (): void => {
  useCourse().head = { id: 'c', role: 'instructor', timeZone: 'UTC', now: '2026-11-18T10:20:00Z', sections: [], groups: [] } as never;
};
const button = (shown: VueWrapper, words: string) => shown.findAll('button').find((b) => b.text().includes(words));
const press = async (shown: VueWrapper, words: string): Promise<void> => {
  await button(shown, words)!.trigger('click');
  await flushPromises();
};
const FINALS = '/courses/c/finals';
async function open(first = view()): Promise<VueWrapper> {
  server.on(`GET ${FINALS}`, () => first);
  const router = makeTestRouter();
  await router.push('/courses/c/finals');
  return show(FinalsPage, {}, router, inCourse);
}
const choose = async (shown: VueWrapper, name: string): Promise<void> => {
  await shown.find(`input[aria-label="${name}"]`).setValue(true);
};

describe('a final grade', () => {
  it.each([
    ['nothing agreed', {}, 'open'],
    ['agreed', { agreed: agreed() }, 'agreed'],
    ['on its way', { agreed: agreed(), row: sent({ state: 'unknown' }) }, 'under way'],
    ['refused', { agreed: agreed(), row: sent({ state: 'refused' }) }, 'refused'],
    ['refused, and agreed anew', { agreed: agreed({ id: '8' }), row: sent({ state: 'refused' }) }, 'agreed'],
    ['with the registrar', { agreed: agreed(), row: sent() }, 'held'],
    ['agreed anew after he had it', { agreed: agreed({ id: '8' }), row: sent() }, 'agreed'],
  ] as const)('stands where it is: %s', (_, more, stage) => {
    expect(stageOf(person('1', 'Abara', more))).toBe(stage);
  });

  it('is agreed as calculated under the number that was seen, with the latest day that is offered', () => {
    const lastDays = [{ kind: 'visit', title: 'Chains', day: '2026-11-03' }] as const;
    expect(asCalculated(person('1', 'Abara', { lastDays }))).toMatchObject({
      ...{ sentLetter: null, lastDay: '2026-11-03', lastDayFrom: 'Chains', seenPercent: '74.3' },
    });
  });
});

describe('the page of final grades', () => {
  it('says how long the window is open, and chooses over everything that is shown', async () => {
    const shown = await open();
    expect(shown.text()).toContain('The registrar’s window closes');
    expect(shown.text()).toContain('in 2 days');
    await choose(shown, 'Choose all that are shown, over all pages');
    expect(shown.text()).toContain('3 of 3 chosen');
  });

  it('agrees on those chosen, and undoes it', async () => {
    const shown = await open();
    await choose(shown, 'Choose G Abara');
    server.on(`POST ${FINALS}/agreed`, () => view({ rows: [person('1', 'Abara', { agreed: agreed() })] }));
    server.on(`POST ${FINALS}/taken-back`, () => view());
    await press(shown, 'Agree as calculated');
    expect(server.bodies(`POST ${FINALS}/agreed`).at(-1)).toMatchObject({
      rows: [{ enrolmentId: '1', sentLetter: null, seenPercent: '74.3' }],
    });
    await useNotices().notice?.undo?.();
    expect(server.bodies(`POST ${FINALS}/taken-back`)).toEqual([{ enrolmentIds: ['1'] }]);
  });

  it('shows a refusal, and keeps what was chosen', async () => {
    const shown = await open();
    await choose(shown, 'Choose G Abara');
    server.on(`POST ${FINALS}/agreed`, () => new Refusal(422, 'invalid', { detail: 'F needs the last day.' }));
    await press(shown, 'Agree as calculated');
    expect(shown.find('[role=alert]').text()).not.toBe('');
    expect(shown.text()).toContain('1 of 3 chosen');
  });

  it('sends those that are agreed, and says by name who was left and why', async () => {
    const shown = await open();
    await choose(shown, 'Choose all that are shown, over all pages');
    server.on(`POST ${FINALS}/sent`, () => ({ sent: 1, left: [{ enrolmentId: '1', name: 'Abara, G', text: 'is not agreed yet.' }] }));
    await press(shown, 'Send 1 grade');
    expect(server.bodies(`POST ${FINALS}/sent`)).toEqual([{ enrolmentIds: ['1', '2', '3'], reason: '' }]);
    expect(shown.text()).toContain('Abara, G is not agreed yet.');
    expect(useNotices().notice?.text).toContain('1 grade is on the way.');
  });

  it('asks why what the registrar has is corrected, and tries or stops what is under way', async () => {
    const rows = [
      person('1', 'Abara', { agreed: agreed({ id: '9' }), row: sent() }),
      person('2', 'Moss', { agreed: agreed(), row: sent({ state: 'unknown', says: 'He did not answer.' }) }),
    ];
    const shown = await open(view({ rows }));
    await choose(shown, 'Choose G Abara');
    await shown.find('input[aria-label="Why they are corrected"]').setValue('Added up wrongly');
    server.on(`POST ${FINALS}/sent`, () => ({ sent: 1, left: [] }));
    await press(shown, 'Send 1 grade');
    expect(server.bodies(`POST ${FINALS}/sent`)).toEqual([{ enrolmentIds: ['1'], reason: 'Added up wrongly' }]);
    await choose(shown, 'Choose G Moss');
    server.on(`POST ${FINALS}/tries`, () => ({}));
    await press(shown, 'Try now');
    expect(server.bodies(`POST ${FINALS}/tries`)).toEqual([{ enrolmentIds: ['2'] }]);
    server.on(`POST ${FINALS}/stopped`, () => view());
    await press(shown, 'Stop what is not sent');
    expect(server.bodies(`POST ${FINALS}/stopped`)).toEqual([{ enrolmentIds: ['2'] }]);
  });

  it('is asked of the registrar anew where he was asked long ago, and lets only the instructor of record send', async () => {
    server.on(`POST ${FINALS}/registrar`, () => ({}));
    const stale = { ...view().registrar, askedAt: null, fault: 'The registrar does not answer.' };
    const shown = await open(view({ registrar: stale, canSend: false }));
    expect(server.sent.filter((s) => s.path === `${FINALS}/registrar`)).toHaveLength(1);
    expect(shown.text()).toContain('The registrar does not answer.');
    await choose(shown, 'Choose G Moss');
    expect(button(shown, 'Send')).toBeUndefined();
    expect(shown.text()).toContain('The instructor of record sends; you can agree.');
  });

  it('sets what students see, under the version that was seen', async () => {
    const shown = await open(view({ version: 3 }));
    server.on(`PUT ${FINALS}/setting`, () => view({ shows: 'agreed' }));
    const field = shown.find('select[aria-label="What students see"]');
    await field.setValue(field.findAll('option')[2]!.attributes('value'));
    await flushPromises();
    expect(server.bodies(`PUT ${FINALS}/setting`)).toEqual([{ version: 3, shows: 'agreed', shownFrom: null }]);
  });
});

describe('one student’s final grade', () => {
  const part = async (row: FinalRow): Promise<VueWrapper> => {
    server.on(`GET ${FINALS}/1/history`, () => ({
      entries: [{ at: '2026-11-17T11:00:00Z', who: 'by itself', state: 'accepted', said: 'B, receipt R-1' }],
    }));
    return show(AgreePart, { courseId: 'c', row, view: view(), isBusy: false }, makeTestRouter(), inCourse);
  };
  const letter = async (shown: VueWrapper, at: number): Promise<void> => {
    const field = shown.find('select[aria-label="Letter that is agreed"]');
    await field.setValue(field.findAll('option')[at]!.attributes('value'));
  };

  it('is agreed with a reason where it is another than the calculated one, and what was typed is kept', async () => {
    const shown = await part(person('1', 'Abara'));
    await letter(shown, 1);
    await shown.find('input[maxlength="600"]').setValue('Oral examination');
    expect(readKept('draft final c 1')).toMatchObject({ letter: 'A', reason: 'Oral examination' });
    await shown.find('form').trigger('submit');
    expect(shown.emitted('agree')?.[0]?.[0]).toMatchObject({ sentLetter: 'A', reason: 'Oral examination', lastDay: null, expiresOn: null });
    expect(readKept('draft final c 1')).toBeNull();
  });

  it('takes a number where the registrar takes numbers, and says what cannot be read', async () => {
    server.on(`GET ${FINALS}/1/history`, () => ({ entries: [] }));
    const numbers = view({ rules: { ...rules, takesNumber: true } });
    const shown = await show(
      AgreePart,
      { courseId: 'c', row: person('1', 'Abara'), view: numbers, isBusy: false },
      makeTestRouter(),
      inCourse,
    );
    const field = shown.find('input[inputmode=decimal]');
    await field.setValue('many');
    await shown.find('form').trigger('submit');
    expect([shown.text().includes('Number: “many” is not a number'), shown.emitted('agree')]).toEqual([true, undefined]);
    await field.setValue('91.5');
    await shown.find('input[maxlength="600"]').setValue('Oral');
    await shown.find('form').trigger('submit');
    expect(shown.emitted('agree')?.[0]?.[0]).toMatchObject({ number: 91_500, reason: 'Oral', sentLetter: null });
  });

  it('asks for the last day where the letter needs one, and offers what was recorded', async () => {
    const lastDays = [{ kind: 'hand-in', title: 'Report', day: '2026-10-28' }] as const;
    const shown = await part(person('1', 'Abara', { lastDays }));
    expect(shown.text()).not.toContain('Last day of attendance');
    await letter(shown, 3);
    expect(shown.text()).toContain('handed in: Report');
    await press(shown, '2026-10-28');
    await shown.find('form').trigger('submit');
    expect(shown.emitted('agree')?.[0]?.[0]).toMatchObject({ sentLetter: 'F', lastDay: '2026-10-28', lastDayFrom: 'Report' });
  });

  it('asks of an incomplete until when and what it becomes, and tells its way so far', async () => {
    const shown = await part(
      person('1', 'Abara', { agreed: agreed(), moved: { from: '74.3 %, Good', to: '80.0 %, Good', by: 'Ines, “Report”' } }),
    );
    expect(shown.text()).toContain('Was 74.3 %, Good when it was agreed, and is 80.0 %, Good now: Ines, “Report”.');
    expect(shown.text()).toContain('accepted: B, receipt R-1');
    await letter(shown, 4);
    expect(shown.text()).toContain('May be finished until');
    const becomes = shown.find('select[aria-label="The letter it becomes when nothing comes"]');
    // What is incomplete itself cannot be what it becomes.
    expect(becomes.findAll('option').map((o) => o.text())).toEqual(['not chosen', 'A', 'B', 'F']);
    await press(shown, 'Take back');
    expect(shown.emitted('takeBack')).toHaveLength(1);
  });
});

describe('a section', () => {
  it('is read back, with the differences named, and leads to its records', async () => {
    const path = `${FINALS}/sections/s/read-back`;
    const section = {
      ...view().sections[0]!,
      ...{ agreed: 3, accepted: 3, refused: 1, records: [{ id: 'k', at: '2026-11-17T11:00:00Z', who: 'Ines', rows: 3 }] },
    };
    server.on(`POST ${path}`, () => ({}));
    server.on(`GET ${path}`, () => ({
      ...{ readAt: '2026-11-18T10:00:00Z', isAsked: false, fault: '', held: 3 },
      differences: [{ studentKey: 'x', name: 'Moss, G', field: 'letter', here: 'B', there: 'C' }],
    }));
    const shown = await show(SectionPart, { courseId: 'c', section, canSend: true }, makeTestRouter(), inCourse);
    expect(shown.text()).toContain('3 of 3 agreed, 3 with the registrar, 1 refused');
    expect(shown.find('a').attributes('href')).toBe('/api/courses/c/finals/records/k?format=pdf');
    await press(shown, 'Read back');
    expect(shown.text()).toContain('and 1 difference.');
    expect(shown.findAll('tbody td').map((td) => td.text())).toEqual(['Moss, G', 'letter', 'B', 'C']);
  });

  it('is opened again with a reason alone', async () => {
    server.on(`POST ${FINALS}/reopened`, () => view());
    const shown = await show(
      ReopenPart,
      { closedAt: '2026-11-17T11:00:00Z', canSend: true, at: { courseId: 'c' } },
      makeTestRouter(),
      inCourse,
    );
    await press(shown, 'Open them again');
    expect(shown.text()).toContain('Type the reason to open them.');
    await shown.find('input').setValue('Added up wrongly');
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.bodies(`POST ${FINALS}/reopened`)).toEqual([{ reason: 'Added up wrongly' }]);
    expect(shown.emitted('done')).toHaveLength(1);
  });
});

describe('the registrar of the school', () => {
  const school = (more: Partial<SchoolHandover> = {}): SchoolHandover => ({
    registrar: view().registrar,
    rules,
    setting: { version: 2, withdrawnLetter: null, auditingLetter: null, needsApproval: false, form: [] },
    tables: [{ labels: ['Good', 'A'], courses: ['HOR-205 autumn'], letters: { Good: 'B' }, version: 1, gaps: [] }],
    sections: [
      {
        ...{ sectionId: 's', courseId: 'c', course: 'HOR-205 autumn', section: 'Day', teacher: 'Ines Moura' },
        instructors: [
          { enrolmentId: 'i1', name: 'Ines Moura', isOfRecord: true },
          { enrolmentId: 'i2', name: 'Tomas Reyl', isOfRecord: false },
        ],
        ...{ students: 3, agreed: 3, accepted: 2, refused: 1, underWay: 0 },
      },
    ],
    approvals: [],
    ...more,
  });
  const page = async (first = school()): Promise<VueWrapper> => {
    server.on('GET /school/handover', () => first);
    return show(RegistrarPage, {}, makeTestRouter());
  };

  it('shows every section and the letters of every scheme, and changes one letter of the table', async () => {
    const shown = await page();
    expect(shown.text()).toContain('1 section is not handed over yet.');
    const letters = shown.findAll('select[aria-label^="Registrar’s letter for"]');
    expect(letters).toHaveLength(2);
    server.on('PUT /school/handover/letters', () => school());
    await letters[0]!.setValue(letters[0]!.findAll('option')[1]!.attributes('value'));
    await flushPromises();
    expect(server.bodies('PUT /school/handover/letters')).toEqual([{ version: 1, labels: ['Good', 'A'], letters: { Good: 'A' } }]);
  });

  it('reminds those who have something left', async () => {
    const shown = await page();
    server.on('POST /school/handover/reminders', () => ({ reminded: 1, withoutAnybody: ['HOR-300 autumn'] }));
    await press(shown, 'Remind those who hand over');
    expect(useNotices().notice?.text).toBe('1 instructor is written to. Nobody hands over HOR-300 autumn: choose an instructor of record.');
  });

  it('says who hands a course over, and undoes it', async () => {
    const shown = await page();
    for (const id of ['i1', 'i2']) server.on(`PUT /school/handover/of-record/${id}`, () => school());
    const who = shown.find('select[aria-label^="Instructor of record"]');
    await who.setValue(who.findAll('option')[1]!.attributes('value'));
    await flushPromises();
    await useNotices().notice?.undo?.();
    expect(server.sent.filter((s) => s.method === 'PUT').map((s) => s.path.split('/').at(-1))).toEqual(['i2', 'i1']);
  });

  it('has the columns of the registrar’s form, added and named one by one', async () => {
    const form = [{ field: 'student', head: 'Matrikel' }] as const;
    const shown = await page(school({ setting: { ...school().setting, form: [...form] } }));
    server.on('PUT /school/handover', () => school());
    await shown.find('input[aria-label="Head of column 1"]').setValue('Number of the student');
    expect(server.bodies('PUT /school/handover').at(-1)).toMatchObject({ form: [{ field: 'student', head: 'Number of the student' }] });
    const again = await page(school({ setting: { ...school().setting, form: [...form] } }));
    await press(again, 'Add column');
    expect(server.bodies('PUT /school/handover').at(-1)).toMatchObject({ form: [form[0], { field: 'familyName', head: 'Family name' }] });
  });

  it('changes the rules with an undo, and approves what waits', async () => {
    const waits = {
      rowId: 'w',
      student: 'Moss, G',
      course: 'HOR-205',
      from: 'B',
      to: 'A',
      reason: 'Added up',
      who: 'Ines',
      at: '2026-11-18T09:00:00Z',
    };
    const shown = await page(school({ approvals: [waits] }));
    server.on('PUT /school/handover', () => school({ setting: { ...school().setting, version: 3, needsApproval: true } }));
    await shown.find('input[type=checkbox]').setValue(true);
    await flushPromises();
    expect(server.bodies('PUT /school/handover').at(-1)).toMatchObject({ version: 2, needsApproval: true });
    await useNotices().notice?.undo?.();
    expect(server.bodies('PUT /school/handover').at(-1)).toMatchObject({ version: 3, needsApproval: false });
    server.on('POST /school/handover/approved', () => school());
    server.on('GET /school/handover', () => school({ approvals: [waits] }));
    const again = await page(school({ approvals: [waits] }));
    await again.find('button[aria-label="Approve Moss, G"]').trigger('click');
    await flushPromises();
    expect(server.bodies('POST /school/handover/approved')).toEqual([{ rowIds: ['w'] }]);
    expect(again.text()).not.toContain('Added up');
  });
});

describe('the student’s own', () => {
  it('says what it is and how it came about, and leads to a conversation about it', async () => {
    const final = {
      kind: 'agreed',
      letter: 'I',
      percent: null,
      at: '2026-11-17T10:00:00Z',
      expiresOn: '2027-02-01',
      lapsesTo: 'F',
      askId: 'p',
    };
    const shown = await show(FinalPart, { courseId: 'c', final }, makeTestRouter(), inCourse);
    expect(shown.text()).toContain('Final grade: I.');
    expect(shown.text()).toContain('It may be finished until Mon 1 Feb 2027, and becomes F then.');
    expect(button(shown, 'Ask about this grade')).toBeDefined();
    const counted = await show(
      FinalPart,
      { courseId: 'c', final: { ...final, kind: 'calculated', letter: null, percent: '74.3', expiresOn: null, askId: null } },
      makeTestRouter(),
      inCourse,
    );
    expect(counted.text()).toContain('Final grade: 74.3 %.');
    expect(counted.text()).toContain('your instructor has not agreed it here');
    expect(button(counted, 'Ask')).toBeUndefined();
  });
});
