import { computed, shallowRef } from 'vue';
import { HttpProblem } from '../platform/http.ts';

/**
 * Fields that are saved one by one, where somebody else saved them meanwhile: theirs and what was typed here stand side by side, and
 * nothing is dropped. `adopt` takes what stands on the server, `again` writes a change once more, `inWords` says a value as it is read.
 */
export function useFieldClash<Current extends object, Change extends object>(
  adopt: (current: Current) => void,
  again: (change: Change) => unknown,
  inWords: (field: string, value: unknown) => string = (_, value) => String(value ?? ''),
) {
  const clash = shallowRef<{ readonly current: Current; readonly change: Change } | null>(null);
  /** The values of both for each field that was to be changed. */
  const lines = computed(() => {
    const { value } = clash;
    if (value === null) return [];
    const current = value.current as Readonly<Record<string, unknown>>;
    return Object.entries(value.change).map(([what, mine]) => ({ what, theirs: inWords(what, current[what]), mine: inWords(what, mine) }));
  });
  /** Whether a refusal is such a clash, which is shown then. */
  function caught(error: unknown, change: Change): boolean {
    if (!(error instanceof HttpProblem) || error.code !== 'conflict') return false;
    clash.value = { current: error.problem.current as Current, change };
    return true;
  }
  function takeTheirs(): void {
    if (clash.value !== null) adopt(clash.value.current);
    clash.value = null;
  }
  async function keepMine(): Promise<void> {
    const { value } = clash;
    takeTheirs();
    if (value !== null) await again(value.change);
  }
  return { clash, lines, caught, takeTheirs, keepMine };
}
