import type { PaperChange, PaperPartWish, QuizChange, QuizDetail, QuizPart, QuizSection, QuizSetting, QuestionView } from '@rosemary/api';
import { defineStore } from 'pinia';
import { computed, shallowRef, ref } from 'vue';
import { get, send } from '../platform/http.ts';
import { useRipple } from '../shell/rippleStore.ts';
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
  const ripple = useRipple();
  const base = computed(() => `/courses/${courseId.value}/quizzes/${detail.value?.itemId ?? ''}`);

  async function load(course: string, itemId: string): Promise<void> {
    courseId.value = course;
    detail.value = await get<QuizDetail>(`/courses/${course}/quizzes/${itemId}`);
  }
  const reload = (): Promise<void> => load(courseId.value, detail.value?.itemId ?? '');

  /** The points of an open quiz stand in floor and reach: what would move them is shown first. A draft stands in no total. */
  const mayMove = async (method: string, path: string, body: object): Promise<boolean> =>
    detail.value?.isDraft !== false || (await ripple.confirm(`“${detail.value.title}”`, method, path, body));

  /** Writes the paper as these sections; gives what stood before, for the way back. */
  function savePaper(sections: SectionsWish): Promise<SectionsWish> {
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
      if (!(await mayMove('PUT', `${base.value}/paper`, body))) {
        await reload();
        return before;
      }
      detail.value = await send<QuizDetail>('PUT', `${base.value}/paper`, body);
      return before;
    });
  }
  function saveSetting(change: Omit<QuizChange, 'version'>): Promise<void> {
    return serial(async () => {
      const version = detail.value?.setting.version ?? 0;
      const setting = await send<QuizSetting>('PUT', base.value, { ...change, version });
      if (detail.value) detail.value = { ...detail.value, setting };
    });
  }
  function addQuestions(sectionId: string, position: number, questions: readonly object[]): Promise<readonly string[]> {
    return serial(async () => {
      const body = { sectionId, position, questions };
      if (!(await mayMove('POST', `${base.value}/questions`, body))) return [];
      const { made, quiz } = await send<{ made: string[]; quiz: QuizDetail }>('POST', `${base.value}/questions`, body);
      detail.value = quiz;
      return made;
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
  return { courseId, detail, base, load, reload, savePaper, saveSetting, addQuestions, putQuestion, serial };
});
