import {
  classShare,
  doneInWords,
  decide,
  exactText,
  isDone,
  markingEstimate,
  markingPace,
  paceInWords,
  nodesOfType,
  PERMISSIONS,
  plainText,
  progressShare,
  ratio,
  reachesSection,
  wordCount,
  type Actor,
  type Role,
  type Traces,
} from '../index.ts';

const actor = (role: Role, more = {}): Actor => ({
  personId: 'p',
  isAdministrator: false,
  memberships: [{ courseId: 'here', enrolmentId: 'e', role, isActive: true, sectionIds: null, ...more }],
});

describe('access', () => {
  it.each(PERMISSIONS.filter((p) => p !== 'school.administer'))(
    '%s is unknown in another course, and to someone withdrawn',
    (permission) => {
      for (const role of ['instructor', 'assistant', 'student'] as const) {
        expect(decide(actor(role), permission, 'elsewhere')).toEqual({ isAllowed: false, reason: 'unknown' });
        expect(decide(actor(role, { isActive: false }), permission, 'here')).toEqual({ isAllowed: false, reason: 'unknown' });
      }
    },
  );

  it('gives students their own work and nothing of the staff’s', () => {
    const allowed = PERMISSIONS.filter((p) => decide(actor('student'), p, 'here').isAllowed);
    expect(allowed).toEqual(['course.see', 'work.own']);
  });

  it('lets assistants mark but not release, edit the policy or the Plan', () => {
    for (const p of ['marking.release', 'policy.edit', 'plan.edit', 'gradebook.edit', 'course.seeAs'] as const) {
      expect(decide(actor('assistant'), p, 'here')).toEqual({ isAllowed: false, reason: 'refused' });
    }
    expect(decide(actor('assistant'), 'marking.mark', 'here').isAllowed).toBe(true);
  });

  it('lets the instructor of record alone hand grades over', () => {
    expect(decide(actor('instructor'), 'grades.handOver', 'here')).toEqual({ isAllowed: false, reason: 'refused' });
    expect(decide(actor('instructor', { isOfRecord: true }), 'grades.handOver', 'here').isAllowed).toBe(true);
    expect(decide(actor('assistant', { isOfRecord: true }), 'grades.handOver', 'here').isAllowed).toBe(false);
  });

  it('keeps the school to its administrator, who is no member of its courses', () => {
    const administrator: Actor = { personId: 'a', isAdministrator: true, memberships: [] };
    expect(decide(administrator, 'school.administer', null).isAllowed).toBe(true);
    expect(decide(administrator, 'gradebook.see', 'here')).toEqual({ isAllowed: false, reason: 'unknown' });
    expect(decide(actor('instructor'), 'school.administer', null).isAllowed).toBe(false);
  });

  it('reaches only the sections shared out', () => {
    const [membership] = actor('assistant', { sectionIds: ['morning'] }).memberships;
    expect([reachesSection(membership!, 'morning'), reachesSection(membership!, 'evening'), reachesSection(membership!, null)]).toEqual([
      true,
      false,
      false,
    ]);
  });
});

describe('what each role may do', () => {
  const may = (role: Role): string[] => PERMISSIONS.filter((permission) => decide(actor(role), permission, 'here').isAllowed);
  it('is written out for everybody, so that a new permission is nobody’s until it is given', () => {
    expect(may('student')).toEqual(['course.see', 'work.own']);
    expect(may('assistant')).toEqual([
      ...['course.see', 'course.teach', 'marking.see', 'marking.mark', 'gradebook.see', 'progress.see', 'roster.see'],
    ]);
    expect(may('instructor')).toEqual([
      ...['course.see', 'course.teach', 'course.seeAs', 'plan.edit', 'marking.see', 'marking.mark', 'marking.release'],
      ...['gradebook.see', 'gradebook.edit', 'policy.edit', 'progress.see', 'roster.see', 'roster.edit'],
    ]);
  });

  it('never holds the school’s own permission, which belongs to its administrators', () => {
    for (const role of ['student', 'assistant', 'instructor'] as const) expect(may(role)).not.toContain('school.administer');
    expect(decide({ ...actor('student'), isAdministrator: true }, 'school.administer', null).isAllowed).toBe(true);
  });
});

describe('done', () => {
  const nothing: Traces = {
    openedAt: null,
    tickedAt: null,
    handedInAt: null,
    result: null,
    isMarked: false,
    isExempt: false,
    areReviewsGiven: false,
  };
  it('follows the item’s own rule', () => {
    expect(isDone('opened', nothing)).toBe(false);
    expect(isDone('opened', { ...nothing, openedAt: 1 })).toBe(true);
    expect(isDone('ticked', { ...nothing, tickedAt: 1 })).toBe(true);
    expect(isDone('handed in', { ...nothing, handedInAt: 1 })).toBe(true);
    expect(isDone('marked', { ...nothing, isMarked: true })).toBe(true);
    expect(isDone('score', { ...nothing, result: 12_000 }, 12_000)).toBe(true);
    expect(isDone('score', { ...nothing, result: 11_999 }, 12_000)).toBe(false);
    expect(isDone('never', { ...nothing, openedAt: 1 })).toBe(false);
    const [handed, reviewed] = [
      { ...nothing, handedInAt: 1 },
      { ...nothing, areReviewsGiven: true },
    ];
    const rules = ['reviewed', 'handed in and reviewed', 'handed in or reviewed'] as const;
    expect(rules.map((rule) => isDone(rule, handed))).toEqual([false, false, true]);
    expect(rules.map((rule) => isDone(rule, reviewed))).toEqual([true, false, true]);
    expect(rules.map((rule) => isDone(rule, { ...handed, areReviewsGiven: true }))).toEqual([true, true, true]);
    expect(isDone('handed in', { ...nothing, isExempt: true })).toBe(true);
  });

  it('is said in the words of its kind', () => {
    expect(doneInWords('handed in', null, 'discussion')).toBe('done when something is written');
    expect(doneInWords('handed in', null, 'assignment')).toBe('done when handed in');
    expect(doneInWords('score', 12_000, 'quiz')).toBe('done at 12 points or more');
    expect(doneInWords('handed in and reviewed', null, 'assignment')).toBe('done when handed in and all reviews are given');
  });

  it('counts required items that are open or past, or their minutes', () => {
    const item = (isRequired: boolean, isDue: boolean, done: boolean, minutes = 30) => ({ isRequired, isDue, isDone: done, minutes });
    const items = [item(true, true, true, 90), item(true, true, false), item(false, true, false), item(true, false, false)];
    expect(exactText(progressShare(items, 'items')!)).toBe('0.5');
    expect(exactText(progressShare(items, 'minutes')!)).toBe('0.75');
    expect(progressShare([], 'items')).toBeNull();
    expect(exactText(classShare([ratio(1, 2), null, ratio(1)])!)).toBe('0.75');
    expect(classShare([null])).toBeNull();
  });
});

describe('documents and pace', () => {
  const document = {
    type: 'doc',
    content: [
      {
        type: 'paragraph',
        content: [{ type: 'text', text: 'End-shake of 0.04 mm — fine' }, { type: 'hardBreak' }, { type: 'text', text: 'so far' }],
      },
      { type: 'image', attrs: { alt: '' } },
      { type: 'paragraph', content: [{ type: 'text', text: 'Next' }] },
    ],
  };
  it('are read as words', () => {
    expect(plainText(document)).toBe('End-shake of 0.04 mm — fine\nso far\nNext');
    expect(wordCount(plainText(document))).toBe(8);
    expect(nodesOfType(document, 'image')).toHaveLength(1);
    expect(plainText(null)).toBe('');
  });
  it('estimate marking from one’s own pace once there are five works', () => {
    const estimate = (count: number, own: readonly number[]) => markingEstimate(count, markingPace(8, own));
    expect(estimate(14, [])).toBe(110);
    expect(estimate(14, [5, 5, 6, 5, 20])).toBe(70);
    expect(estimate(14, [4, 5, 6, 7, 8, 9])).toBe(90);
    expect(estimate(0, [])).toBe(0);
    expect(estimate(1, [0.1, 0.1, 0.1, 0.1, 0.1])).toBe(1);
    expect(paceInWords(markingPace(8, [5, 5]))).toBe('8 min each, as planned');
    expect(paceInWords(markingPace(8, [7, 7, 7, 6, 8]))).toBe('7 min each, your own pace');
    expect(paceInWords(markingPace(8, [0.4, 0.4, 0.4, 0.4, 0.4]))).toBe('under a minute each, your own pace');
  });
});
