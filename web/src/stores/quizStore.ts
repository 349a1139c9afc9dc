import * as api from '@rosemary/api/endpoints';
import type { PaperChange, PaperPartWish, QuizChange, QuizDetail, QuizPart, QuizSection, QuestionView, QuizQuestions } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { defineStore } from 'pinia';
import { computed, shallowRef, ref } from 'vue';
import { call } from '../platform/call.ts';
import { makeSerial } from '../platform/serial.ts';

export type NewPart = Omit<QuizPart, 'id'> & { readonly id: string | null };
const wishOf = (part: QuizPart | NewPart): PaperPartWish => ({
  id: part.id,
  points: part.points,
  floor: part.floor,
  questionId: part.question?.id ?? null,
  questionVersion: part.questionVersion,
  draw:
    part.draw === null
      ? null
      : {
          count: part.draw.count,
          folderId: part.draw.folderId,
          tags: part.draw.tags,
          levels: part.draw.levels,
          objectives: part.draw.objectives,
          kinds: part.draw.kinds,
        },
});
export type SectionsWish = readonly (Omit<QuizSection, 'id' | 'parts'> & {
  readonly id: string | null;
  readonly parts: readonly (QuizPart | NewPart)[];
})[];

/** The quiz that is open to whoever builds it: its paper and its setting, each write naming the version it saw. */
export const useQuiz = defineStore('quiz', () => {
  const courseId = ref('');
  const detail = shallowRef<QuizDetail | null>(null);
  const serial = makeSerial();
  const base = computed(() => ({ courseId: courseId.value, itemId: detail.value?.itemId ?? '' }));

  async function load(course: string, itemId: string): Promise<void> {
    courseId.value = course;
    detail.value = await call(api.getQuiz, { courseId: course, itemId });
  }
  const reload = (): Promise<void> => load(courseId.value, detail.value?.itemId ?? '');

  const title = (): string => `“${detail.value?.title ?? ''}”`;

  /** Writes the paper as these sections; gives what stood before, for the way back, or null where the ripple was left. */
  function savePaper(sections: SectionsWish): Promise<SectionsWish | null> {
    return serial(async () => {
      const before = detail.value?.sections ?? [];
      const body: PaperChange = {
        version: detail.value?.setting.version ?? 0,
        sections: sections.map((s) => ({
          id: s.id,
          title: s.title,
          instructions: s.instructions,
          isShuffled: s.isShuffled,
          parts: s.parts.map(wishOf),
        })),
      };
      const saved = await call(api.savePaper, base.value, body, title());
      if (saved === null) {
        await reload();
        return null;
      }
      detail.value = saved;
      return before;
    });
  }
  /** False where the ripple of the change was left, and the setting stands as it was. */
  function saveSetting(change: Omit<QuizChange, 'version'>): Promise<boolean> {
    return serial(async () => {
      const version = detail.value?.setting.version ?? 0;
      const setting = await call(api.changeQuiz, base.value, { ...change, version }, title());
      if (setting === null) await reload();
      else if (detail.value) detail.value = { ...detail.value, setting };
      return setting !== null;
    });
  }
  function saveInstructions(instructions: DocumentNode): Promise<void> {
    return serial(async () => {
      const version = detail.value?.setting.version ?? 0;
      const setting = await call(api.saveQuizInstructions, base.value, { instructions, version });
      if (detail.value) detail.value = { ...detail.value, setting };
    });
  }
  function addQuestions(sectionId: string, position: number, questions: QuizQuestions['questions']): Promise<readonly string[]> {
    return serial(async () => {
      const body = { sectionId, position, questions };
      const added = await call(api.addQuizQuestions, base.value, body, title());
      if (added === null) return [];
      detail.value = added.quiz;
      return added.made;
    });
  }
  /** A question was saved on its own: the paper shows it. */
  function putQuestion(question: QuestionView): void {
    const held = detail.value;
    if (held === null) return;
    detail.value = {
      ...held,
      sections: held.sections.map((s) => ({
        ...s,
        parts: s.parts.map((p) =>
          p.question?.id === question.id
            ? {
                ...p,
                question,
                questionVersion: held.attempts === 0 && p.questionVersion === p.question.newest ? question.number : p.questionVersion,
              }
            : p,
        ),
      })),
    };
  }
  return { courseId, detail, base, load, reload, savePaper, saveSetting, saveInstructions, addQuestions, putQuestion, serial };
});
