import * as api from '@rosemary/api/endpoints';
import type { PaperSetting, PaperTestView, SheetView } from '@rosemary/api';
import { computed, ref, shallowRef } from 'vue';
import { call, callWithFile, takeBack as putBack } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useQuiz } from '../stores/quizStore.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** A quiz on paper: what is printed, what was scanned, what is known of every sheet. */
export function usePaperTest() {
  const quiz = useQuiz();
  const notices = useNotices();
  const view = shallowRef<PaperTestView | null>(null);
  const fault = ref('');
  const base = computed(() => quiz.base);
  const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : 'Not done.');

  async function load(): Promise<void> {
    try {
      view.value = await call(api.getPaperTest, base.value);
      fault.value = '';
    } catch (error) {
      fault.value = reasonOf(error);
    }
  }
  /** Carries out one change; what is refused is said, and the view is read anew either way. */
  async function act(work: () => Promise<unknown>): Promise<boolean> {
    try {
      await work();
      await load();
      return true;
    } catch (error) {
      notices.sayFault(error);
      await load();
      return false;
    }
  }
  /** As `act`, with what came of it; null where it was refused or left. */
  async function done<T>(work: () => Promise<T | null>): Promise<T | null> {
    let answer: T | null = null;
    await act(async () => {
      answer = await work();
    });
    return answer;
  }
  const undoing = (work: () => Promise<unknown>) => async (): Promise<void> => {
    await act(work);
  };
  async function setLayout(change: Partial<Omit<PaperSetting, 'version'>>): Promise<void> {
    const before = view.value?.setting;
    if (before === undefined) return;
    const put = (next: object): Promise<unknown> =>
      call(api.changePaperTest, base.value, { version: view.value?.setting.version ?? 0, ...next });
    if (!(await act(() => put(change)))) return;
    const { columns, spacing, alternates, forms } = before;
    notices.say(
      'The layout is changed.',
      undoing(() => put({ columns, spacing, alternates, forms })),
    );
  }
  const makeSheets = (spare: number): Promise<boolean> =>
    act(async () => {
      await call(api.addSheets, base.value, { spare });
      await quiz.reload();
    });
  const startOver = (): Promise<boolean> =>
    act(async () => {
      await call(api.removeSheets, base.value);
      notices.say('Nothing is printed any more; the paper can be changed again.');
    });

  /** How much of a lot of scans has been read; null while none is on its way. */
  const share = ref<number | null>(null);
  const scanFault = ref('');
  let abort: AbortController | null = null;
  async function sendScans(files: readonly File[]): Promise<void> {
    const faults: string[] = [];
    let [pages, unread] = [0, 0];
    abort = new AbortController();
    share.value = 0;
    for (const [n, file] of files.entries()) {
      if (abort.signal.aborted) break;
      try {
        const done = await callWithFile(api.addScans, base.value, file, {
          onProgress: (s) => (share.value = Math.min(0.999, (n + s) / files.length)),
          signal: abort.signal,
        });
        pages += done.pages;
        unread += done.unread;
      } catch (error) {
        faults.push(`${file.name}: ${error instanceof HttpProblem ? error.message : 'did not arrive.'}`);
      }
    }
    share.value = null;
    scanFault.value = faults.join(' ');
    await load();
    const read = pages - unread;
    if (pages > 0)
      notices.say(
        `${read === 1 ? 'One page is' : `${read} pages are`} read${unread === 0 ? '' : `, ${unread === 1 ? 'one' : unread} could not be`}.`,
      );
  }
  const cancel = (): void => abort?.abort();
  const setLeftOut = async (scanId: string, isOut: boolean): Promise<void> => {
    if (await act(() => (isOut ? call(api.removeScan, { ...base.value, scanId }) : call(api.restoreScan, { ...base.value, scanId }))))
      notices.say(isOut ? 'The scan is left out.' : 'The scan is there again.', () => setLeftOut(scanId, !isOut));
  };
  const sayRow = (sheet: SheetView, question: number, picked: readonly number[] | null): Promise<boolean> =>
    act(() => call(api.decideRow, { ...base.value, sheetId: sheet.id }, { question, picked }));
  /** Gives why the answers were refused; empty where they are kept. */
  async function sayAnswers(sheet: SheetView, answers: string): Promise<string> {
    try {
      await call(api.typeAnswers, { ...base.value, sheetId: sheet.id }, { answers });
      await load();
      return '';
    } catch (error) {
      return reasonOf(error);
    }
  }
  const setOwner = (sheet: SheetView, enrolmentId: string | null): Promise<boolean> =>
    act(() => call(api.nameSheet, { ...base.value, sheetId: sheet.id }, { enrolmentId }));

  async function bringIn(sheets: readonly SheetView[]): Promise<void> {
    const body = { sheetIds: sheets.map((s) => s.id) };
    const made = await done(() => call(api.makePaperResults, base.value, body, 'Results of these sheets'));
    if (made !== null)
      notices.say(
        sheets.length === 1 ? 'One result is in the gradebook.' : `${sheets.length} results are in the gradebook.`,
        undoing(() => putBack(api.makePaperResults, base.value, body)),
      );
  }
  async function takeBack(sheets: readonly SheetView[]): Promise<void> {
    const body = { sheetIds: sheets.map((s) => s.id) };
    const taken = await done(() => call(api.takeBackPaperResults, base.value, body, 'Without the results of these sheets'));
    if (taken !== null)
      notices.say(
        'Taken back. The answers are kept here.',
        undoing(() => call(api.makePaperResults, base.value, body, 'Results of these sheets')),
      );
  }
  return {
    ...{ view, fault, base, load, setLayout, makeSheets, startOver, share, scanFault, sendScans, cancel, setLeftOut },
    ...{ sayRow, sayAnswers, setOwner, bringIn, takeBack },
  };
}
