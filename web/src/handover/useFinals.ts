import * as api from '@rosemary/api/endpoints';
import type { AgreeRow, FinalRow, FinalsView, SendAnswer } from '@rosemary/api';
import { countOf, HELD, UNDER_WAY } from '@rosemary/core';
import { computed, ref, shallowRef, type Ref } from 'vue';
import { call } from '../platform/call.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** What of a grade is at hand: nothing agreed, agreed and not sent, on its way, refused, with the registrar. */
export const STAGES = {
  open: 'to agree',
  agreed: 'agreed, to send',
  'under way': 'on its way',
  refused: 'refused',
  held: 'with the registrar',
} as const;
export type Stage = keyof typeof STAGES;
export function stageOf(row: FinalRow): Stage {
  if (row.row !== null && UNDER_WAY.includes(row.row.state)) return 'under way';
  if (row.agreed === null) return 'open';
  const isLast = row.row?.agreedId === row.agreed.id;
  if (row.row !== null && HELD.includes(row.row.state) && isLast) return 'held';
  return row.row?.state === 'refused' && isLast ? 'refused' : 'agreed';
}

/** What is agreed of a student where the calculated grade is taken as it is. */
export const asCalculated = (row: FinalRow): AgreeRow => ({
  enrolmentId: row.enrolmentId,
  ...{ sentLetter: null, number: null, reason: '', expiresOn: null, lapsesTo: null },
  lastDay: row.agreed?.lastDay ?? row.lastDays[0]?.day ?? null,
  lastDayFrom: row.agreed?.lastDayFrom ?? row.lastDays[0]?.title ?? '',
  seenPercent: row.calculated.percent,
});

/** The final grades of a course: read, agreed, sent; what was left of a choice is said by name. */
export function useFinals(courseId: Ref<string>) {
  const course = useCourse();
  const notices = useNotices();
  const view = shallowRef<FinalsView | null>(null);
  const fault = ref('');
  const isBusy = ref(false);
  /** Those of a choice of whom nothing was sent, and why. */
  const left = shallowRef<SendAnswer['left']>([]);
  const at = computed(() => ({ courseId: courseId.value }));
  async function load(): Promise<void> {
    try {
      view.value = await call(api.getFinals, at.value);
      fault.value = '';
    } catch (error) {
      fault.value = error instanceof Error ? error.message : '';
    }
  }
  useFresh(courseId, ['grades', 'marks', 'people'], load);
  /** Does something with grades; a refusal is shown where the page says what is wrong. */
  async function act(send: () => Promise<unknown>): Promise<boolean> {
    isBusy.value = true;
    fault.value = '';
    try {
      await send();
      return true;
    } catch (error) {
      fault.value = error instanceof Error ? error.message : '';
      return false;
    } finally {
      isBusy.value = false;
    }
  }
  const takeBack = (enrolmentIds: string[]): Promise<boolean> =>
    act(async () => {
      view.value = await call(api.takeBackFinals, at.value, { enrolmentIds });
    });
  const agree = (rows: AgreeRow[]): Promise<boolean> =>
    act(async () => {
      view.value = await call(api.agreeFinals, at.value, { rows });
      notices.say(`${countOf(rows.length, 'grade')} agreed.`, async () => {
        await takeBack(rows.map((r) => r.enrolmentId));
      });
    });
  const under = (send: () => Promise<SendAnswer>, done: (many: number) => string): Promise<boolean> =>
    act(async () => {
      const answer = await send();
      left.value = answer.left;
      if (answer.sent > 0) notices.say(done(answer.sent), null);
      await load();
    });
  const send = (enrolmentIds: string[], reason: string): Promise<boolean> =>
    under(
      () => call(api.sendFinals, at.value, { enrolmentIds, reason }),
      (many) => `${countOf(many, 'grade is', 'grades are')} on the way. You can leave this page.`,
    );
  const noteByHand = (enrolmentIds: string[]): Promise<boolean> =>
    under(
      () => call(api.noteFinals, at.value, { enrolmentIds }),
      (many) => `${countOf(many, 'grade')} noted as entered by hand.`,
    );
  const tryAgain = (enrolmentIds: string[]): Promise<boolean> =>
    act(async () => {
      await call(api.tryFinals, at.value, { enrolmentIds });
      await load();
    });
  const stop = (enrolmentIds: string[]): Promise<boolean> =>
    act(async () => {
      view.value = await call(api.stopFinals, at.value, { enrolmentIds });
    });
  const askRegistrar = (): Promise<boolean> => act(() => call(api.askRegistrar, at.value));
  const rows = computed((): readonly FinalRow[] =>
    (view.value?.rows ?? []).filter((r) => course.sectionId === null || r.sectionId === course.sectionId),
  );
  return { view, rows, fault, isBusy, left, load, agree, takeBack, send, noteByHand, tryAgain, stop, askRegistrar, act, at };
}
export type Finals = ReturnType<typeof useFinals>;
