import * as api from '@rosemary/api/endpoints';
import type { BookRow, CellChange, CellSaved } from '@rosemary/api';
import { wishInWords, type CellWish } from '@rosemary/core';
import { computed, onBeforeUnmount, reactive, ref, type Ref } from 'vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { noteSaved, onSentLater, sendLater, unsavedOf } from '../platform/unsaved.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { pendingKey, type Column } from './columns.ts';
import { heldCell, seenEvent } from './heldCell.ts';

/** A write that needs a word first: points above the maximum, or a cell that somebody else changed meanwhile. */
export interface Asked {
  readonly who: string;
  readonly title: string;
  readonly text: string;
  /** Where somebody else changed it: theirs and mine, to choose from. */
  readonly theirs: string | null;
  readonly mine: string;
  readonly go: () => Promise<void>;
}
/** A result that was changed after its student had seen it, by the event that changed it. */
export interface ChangedAfter {
  readonly who: string;
  readonly title: string;
  readonly eventId: string;
}
interface Cell {
  readonly row: BookRow;
  readonly column: Column;
}
type Theirs = Pick<CellChange, 'state' | 'raw'> & { readonly eventId: string | null };
const beginning = 'cell ';

/**
 * Writes what is typed into cells. It shows at once; the writes of one cell go out one after another; without a connection they wait in
 * this browser and are sent later, whatever page is open.
 */
export function useCellWrites(
  courseId: Ref<string>,
  findRow: (enrolmentId: string) => BookRow | null,
  columnOf: (columnId: string) => Column | null,
  accept: (saved: CellSaved) => void,
  reload: () => Promise<void>,
) {
  const notices = useNotices();
  const asked = ref<Asked | null>(null);
  const changedAfter = ref<ChangedAfter | null>(null);
  const base = computed(() => ({ courseId: courseId.value }));
  /** What was typed and is on its way, by cell. */
  const going = reactive(new Map<string, string>());
  const chains = new Map<string, Promise<void>>();
  /** What stands in cells until the server has it. */
  const pending = computed((): ReadonlyMap<string, string> => {
    const left = unsavedOf(beginning).flatMap(({ key, request }): [string, string][] =>
      request === null ? [] : [[key, wishInWords(request.body as CellWish)]],
    );
    return new Map([...left, ...going]);
  });
  const nameOf = ({ row, column }: Cell): string => `${row.familyName}, ${row.givenName} · ${column.title}`;

  async function undo(eventId: string): Promise<void> {
    accept(await call(api.undoCell, base.value, { eventId }));
  }
  function tell(cell: Cell, saved: CellSaved, wish: CellWish, before: string | null): void {
    const wasReleased = heldCell(cell.row, cell.column.place)?.[2] === 1;
    accept(saved);
    const { eventId } = saved;
    if (wasReleased && eventId !== null && eventId !== before)
      changedAfter.value = { who: `${cell.row.givenName} ${cell.row.familyName}`, title: cell.column.title, eventId };
    if (eventId !== before)
      notices.say(`${nameOf(cell)}: ${wishInWords(wish)}.`, eventId === null ? null : () => undo(eventId), () => write(cell, wish));
  }
  function askAbout(cell: Cell, change: CellChange, error: HttpProblem): void {
    const { columnId, enrolmentId } = change;
    const words = { who: `${cell.row.givenName} ${cell.row.familyName}`, title: cell.column.title, mine: wishInWords(change) };
    const again = (more: Partial<CellChange>) => (): Promise<void> => {
      noteSaved(pendingKey(columnId, enrolmentId));
      return send(cell, { ...change, ...more });
    };
    if (error.code === 'confirm') asked.value = { ...words, text: error.message, theirs: null, go: again({ isAboveConfirmed: true }) };
    else {
      const theirs = error.problem.current as Theirs;
      const text = 'Somebody else changed this cell after you opened it.';
      asked.value = { ...words, text, theirs: wishInWords(theirs), go: again({ seenEventId: theirs.eventId }) };
      void reload();
    }
  }
  async function send(cell: Cell, change: CellChange): Promise<void> {
    const key = pendingKey(change.columnId, change.enrolmentId);
    try {
      const saved = await call(api.changeCell, base.value, change);
      noteSaved(key);
      tell(cell, saved, change, change.seenEventId);
    } catch (error) {
      if (!(error instanceof HttpProblem)) notices.sayFault(error);
      else if (error.isPassing) sendLater(key, nameOf(cell), api.changeCell, base.value, change);
      else if (error.code === 'confirm' || error.code === 'conflict') askAbout(cell, change, error);
      else notices.sayFault(error);
    }
  }
  /** Writes a cell. Above the points it asks; another's change meanwhile shows both values. */
  function write({ row, column }: Cell, wish: CellWish): Promise<void> {
    const { columnId } = column;
    if (columnId === null) return Promise.resolve();
    const { enrolmentId } = row;
    const key = pendingKey(columnId, enrolmentId);
    const shown = wish.state === null ? '' : wishInWords(wish);
    going.set(key, shown);
    const mine = (chains.get(key) ?? Promise.resolve()).then(async () => {
      // The write before has changed what was seen.
      const cell = { row: findRow(enrolmentId) ?? row, column };
      const seenEventId = seenEvent(cell.row, column.place);
      await send(cell, { columnId, enrolmentId, ...wish, seenEventId, isAboveConfirmed: false, reason: '' });
      if (chains.get(key) !== mine) return;
      chains.delete(key);
      going.delete(key);
    });
    chains.set(key, mine);
    return mine;
  }
  const leave = onSentLater((key, outcome) => {
    if (!key.startsWith(beginning)) return;
    const [, columnId = '', enrolmentId = ''] = key.split(' ');
    const [row, column] = [findRow(enrolmentId), columnOf(columnId)];
    if (row === null || column === null) return;
    if ('answer' in outcome) accept(outcome.answer as CellSaved);
    else if (['confirm', 'conflict'].includes(outcome.refused.code))
      askAbout({ row, column }, outcome.request.body as CellChange, outcome.refused);
    else notices.sayFault(outcome.refused);
  });
  onBeforeUnmount(leave);
  return { asked, changedAfter, write, undo, pending };
}
