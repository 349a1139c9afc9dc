import { useIntervalFn } from '@vueuse/core';
import * as api from '@rosemary/api/endpoints';
import type { OwnReview, ReviewContent, ReviewNoteChange } from '@rosemary/api';
import { computed, ref, type Ref } from 'vue';
import { call } from '../platform/call.ts';
import { useWritten } from './useWritten.ts';

type Base = Readonly<Ref<{ readonly courseId: string; readonly itemId: string; readonly reviewId: string }>>;
export const NOTHING_WRITTEN: ReviewContent = { choices: {}, given: {}, comments: {}, words: '' };
export const contentOfReview = ({ choices, given, comments, words }: ReviewContent): ReviewContent => ({ choices, given, comments, words });

/** One review as it is written: read, saved as it is typed, handed in. What is typed survives a reload and a lost connection. */
export function useReview(base: Base) {
  const handFault = ref('');
  const isHanding = ref(false);
  let seconds = 0;
  useIntervalFn(() => {
    if (document.visibilityState === 'visible') seconds += 1;
  }, 1000);
  const written = useWritten<OwnReview, ReviewContent>({
    key: () => `review ${base.value.reviewId}`,
    read: () => call(api.getOwnReview, base.value),
    save: async (content, version) => {
      const sent = seconds;
      const saved = await call(api.saveReview, base.value, { ...content, version, seconds: Math.min(3600, sent) });
      seconds -= sent;
      return saved;
    },
    contentOf: contentOfReview,
    isOpen: (found) => found.door.isOpen,
    nothing: NOTHING_WRITTEN,
  });
  const { held: review, take, flush } = written;
  async function handIn(): Promise<void> {
    handFault.value = '';
    isHanding.value = true;
    try {
      take(await call(api.handInReview, base.value, { version: await flush() }));
    } catch (error) {
      handFault.value = error instanceof Error ? error.message : 'It was not handed in.';
    } finally {
      isHanding.value = false;
    }
  }
  async function putNote(id: string, note: ReviewNoteChange): Promise<boolean> {
    try {
      const { notes } = await call(api.putReviewNote, { ...base.value, noteId: id }, note);
      if (review.value !== null) review.value = { ...review.value, notes };
      return true;
    } catch (error) {
      handFault.value = error instanceof Error ? error.message : 'The note was not saved.';
      return false;
    }
  }
  const isFixed = computed(() => review.value?.door.isOpen !== true);
  return { ...written, review, handFault, isHanding, isFixed, handIn, putNote };
}
