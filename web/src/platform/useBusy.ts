import { ref } from 'vue';
import { HttpProblem } from './http.ts';

/** One thing at a time: while it runs it is busy, and where it failed the fault says why; `otherwise` where the server says nothing. */
export function useBusy(otherwise: string) {
  const isBusy = ref(false);
  const fault = ref('');
  async function run<T>(work: () => Promise<T>): Promise<T | null> {
    isBusy.value = true;
    fault.value = '';
    try {
      return await work();
    } catch (error) {
      fault.value = error instanceof HttpProblem ? error.message : otherwise;
      return null;
    } finally {
      isBusy.value = false;
    }
  }
  return { isBusy, fault, run };
}
