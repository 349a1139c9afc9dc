import { ref } from 'vue';
import type { ParamsOf } from '@rosemary/api/endpoints';
import { callWithFile, type Answered, type SendingOf, type Uploading } from '../../platform/call.ts';
import { HttpProblem } from '../../platform/http.ts';

/** One file that is sent, perhaps twice: to be looked at, then to be taken. */
export function useFileSending() {
  const file = ref<File | null>(null);
  /** How much of it has arrived, 0 to 1; null while nothing is on its way. */
  const share = ref<number | null>(null);
  const fault = ref('');
  let abort: AbortController | null = null;

  /** Sends the file chosen; null where it was refused, and `fault` says why. */
  async function carry<E extends Uploading>(at: E, params: ParamsOf<E>, title = ''): Promise<Answered<E> | null> {
    if (file.value === null) return null;
    fault.value = '';
    share.value = 0;
    abort = new AbortController();
    try {
      const sending = { title, onProgress: (s: number) => (share.value = s), signal: abort.signal };
      return await callWithFile(at, params, file.value, ...([sending] as unknown as SendingOf<E>));
    } catch (error) {
      fault.value = error instanceof HttpProblem ? error.message : 'The file did not arrive.';
      return null;
    } finally {
      share.value = null;
    }
  }
  const cancel = (): void => abort?.abort();
  return { file, share, fault, carry, cancel };
}
