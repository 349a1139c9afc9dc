import * as api from '@rosemary/api/endpoints';
import type { OwnSample, ReviewContent } from '@rosemary/api';
import { computed, ref, type Ref } from 'vue';
import { call } from '../platform/call.ts';
import { contentOfReview, NOTHING_WRITTEN } from './useReview.ts';
import { useWritten } from './useWritten.ts';

type Base = Readonly<Ref<{ readonly courseId: string; readonly itemId: string; readonly sampleId: string }>>;

/** A sample work as a student practises on it: saved as it is typed, then held against the teacher’s. */
export function useOwnSample(base: Base) {
  const compareFault = ref('');
  const isComparing = ref(false);
  const written = useWritten<OwnSample, ReviewContent>({
    key: () => `sample ${base.value.sampleId}`,
    read: () => call(api.getOwnSample, base.value),
    save: (content, version) => call(api.saveOwnSample, base.value, { ...content, version, seconds: 0 }),
    contentOf: contentOfReview,
    isOpen: (found) => found.door.isOpen,
    nothing: NOTHING_WRITTEN,
  });
  async function compare(): Promise<void> {
    compareFault.value = '';
    isComparing.value = true;
    try {
      written.take(await call(api.compareOwnSample, base.value, { version: await written.flush() }));
    } catch (error) {
      compareFault.value = error instanceof Error ? error.message : 'It could not be compared.';
    } finally {
      isComparing.value = false;
    }
  }
  const isFixed = computed(() => written.held.value?.door.isOpen !== true);
  return { ...written, compareFault, isComparing, isFixed, compare };
}
