import { computed, ref, shallowRef, type ComputedRef, type Ref } from 'vue';
import { HttpProblem } from '../platform/http.ts';

interface TableRow {
  readonly problem: string;
}

/** A table that is pasted or chosen as a file, looked at row by row before any of it is taken. */
export function useTableReading<R extends TableRow>(
  read: (csv: string, isPreview: boolean) => Promise<{ readonly rows: readonly R[] }>,
  taken: (good: number) => Promise<void>,
): {
  readonly csv: Ref<string>;
  readonly rows: Ref<readonly R[] | null>;
  readonly fault: Ref<string>;
  readonly good: ComputedRef<number>;
  readonly ask: (isPreview: boolean) => Promise<void>;
  readonly pick: (files: readonly File[]) => Promise<void>;
} {
  const csv = ref('');
  const rows = shallowRef<readonly R[] | null>(null);
  const fault = ref('');
  const good = computed(() => rows.value?.filter((r) => r.problem === '').length ?? 0);
  async function ask(isPreview: boolean): Promise<void> {
    fault.value = '';
    try {
      rows.value = (await read(csv.value, isPreview)).rows;
      if (!isPreview) await taken(good.value);
    } catch (error) {
      fault.value = error instanceof HttpProblem ? error.message : 'Not done.';
    }
  }
  async function pick([file]: readonly File[]): Promise<void> {
    if (file === undefined) return;
    csv.value = await file.text();
    await ask(true);
  }
  return { csv, rows, fault, good, ask, pick };
}
