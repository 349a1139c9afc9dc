import { useIntervalFn } from '@vueuse/core';
import * as api from '@rosemary/api/endpoints';
import type { OwnReview, ReviewContent, ReviewNoteChange } from '@rosemary/api';
import { computed, ref, shallowRef, type Ref } from 'vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useSaving } from '../platform/useSaving.ts';

type Base = Readonly<Ref<{ readonly courseId: string; readonly itemId: string; readonly reviewId: string }>>;
const contentOf = ({ choices, given, comments, words }: ReviewContent): ReviewContent => ({ choices, given, comments, words });

/** One review as it is written: read, saved as it is typed, handed in. What is typed survives a reload and a lost connection. */
export function useReview(base: Base) {
  const review = shallowRef<OwnReview | null>(null);
  const content = ref<ReviewContent>({ choices: {}, given: {}, comments: {}, words: '' });
  const fault = ref('');
  const handFault = ref('');
  const isHanding = ref(false);
  /** What another window saved meanwhile, where it did. */
  const other = shallowRef<OwnReview | null>(null);
  let version = 0;
  let seconds = 0;
  useIntervalFn(() => {
    if (document.visibilityState === 'visible') seconds += 1;
  }, 1000);

  const saving = useSaving<ReviewContent>(
    () => `review ${base.value.reviewId}`,
    async (next) => {
      const sent = seconds;
      try {
        const saved = await call(api.saveReview, base.value, { ...next, version, seconds: Math.min(3600, sent) });
        ({ version } = saved);
        seconds -= sent;
        return saved.savedAt;
      } catch (error) {
        if (error instanceof HttpProblem && error.code === 'conflict') other.value = await call(api.getOwnReview, base.value);
        throw error;
      }
    },
  );
  function take(next: OwnReview): void {
    review.value = next;
    ({ version } = next);
    content.value = contentOf(next);
  }
  async function load(): Promise<void> {
    fault.value = '';
    try {
      const found = await call(api.getOwnReview, base.value);
      take(found);
      const kept = found.door.isOpen ? await saving.findKept() : null;
      if (kept !== null) change(kept);
    } catch (error) {
      fault.value = error instanceof HttpProblem ? error.message : 'It could not be read.';
    }
  }
  function change(next: Partial<ReviewContent>): void {
    content.value = { ...content.value, ...next };
    saving.push(content.value);
  }
  async function handIn(): Promise<void> {
    handFault.value = '';
    isHanding.value = true;
    try {
      // What was typed last goes first; where nothing was, the time that was taken goes all the same.
      if (saving.state.value === 'idle') saving.push(content.value);
      await saving.flush();
      if (saving.state.value !== 'saved') throw saving.fault.value ?? new Error(saving.words.value);
      take(await call(api.handInReview, base.value, { version }));
    } catch (error) {
      handFault.value = error instanceof Error ? error.message : 'It was not handed in.';
    } finally {
      isHanding.value = false;
    }
  }
  /** Of two windows: what the other saved, or what stands here. */
  async function settle(which: 'other' | 'mine'): Promise<void> {
    const found = other.value;
    if (found === null) return;
    other.value = null;
    const mine = content.value;
    await saving.forget();
    take(found);
    if (which === 'mine') change(mine);
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
  return {
    review,
    content,
    fault,
    handFault,
    isHanding,
    isFixed,
    other,
    saving,
    load,
    change,
    handIn,
    settle,
    putNote,
  };
}
