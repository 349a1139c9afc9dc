import type { BankView } from '@rosemary/api';
import { ref, shallowRef, watch } from 'vue';
import { get } from '../platform/http.ts';

export interface BankSearch {
  folder: string;
  text: string;
  level: string;
  kind: string;
  objective: string;
  tag: string;
  retired: boolean;
}

/** A search of the bank that is asked anew as it is changed; only the latest answer counts. */
export function useBank(courseId: () => string) {
  const search = ref<BankSearch>({ folder: '', text: '', level: '', kind: '', objective: '', tag: '', retired: false });
  const bank = shallowRef<(BankView & { home: string }) | null>(null);
  const fault = ref('');
  let asked = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  async function load(from = 0): Promise<void> {
    const s = search.value;
    asked += 1;
    const mine = asked;
    const query = new URLSearchParams({
      folder: s.folder,
      text: s.text,
      levels: s.level,
      kinds: s.kind,
      objectives: s.objective,
      tags: s.tag,
      retired: String(s.retired),
      from: String(from),
    });
    try {
      const found = await get<BankView & { home: string }>(`/courses/${courseId()}/bank?${query.toString()}`);
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
  return { search, bank, fault, load };
}
