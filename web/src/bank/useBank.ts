import * as api from '@rosemary/api/endpoints';
import type { BankView } from '@rosemary/api';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../platform/call.ts';

export interface BankSearch {
  folder: string;
  /** A quiz that a colleague shares, instead of folders. */
  quiz: string;
  text: string;
  level: string;
  kind: string;
  objective: string;
  tag: string;
  retired: boolean;
}

/** A search of the bank that is asked anew as it is changed; only the latest answer counts. */
export function useBank(courseId: () => string) {
  const search = ref<BankSearch>({ folder: '', quiz: '', text: '', level: '', kind: '', objective: '', tag: '', retired: false });
  const bank = shallowRef<(BankView & { home: string }) | null>(null);
  const fault = ref('');
  let asked = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  /** What is searched for, as its address says it. */
  const query = computed(() => {
    const { folder, quiz, text, level, kind, objective, tag, retired } = search.value;
    return { folder, quiz, text, levels: level, kinds: kind, objectives: objective, tags: tag, retired: String(retired) };
  });
  async function load(from = 0): Promise<void> {
    asked += 1;
    const mine = asked;
    try {
      const found = await call(api.getBank, { courseId: courseId(), ...query.value, from: String(from) });
      if (mine !== asked) return;
      bank.value = from > 0 && bank.value !== null ? { ...found, questions: [...bank.value.questions, ...found.questions] } : found;
      fault.value = '';
    } catch (error) {
      if (mine === asked) fault.value = error instanceof Error ? error.message : '';
    }
  }
  watch(
    search,
    () => {
      clearTimeout(timer);
      timer = setTimeout(() => void load(), 200);
    },
    { deep: true },
  );
  return { search, query, bank, fault, load };
}
