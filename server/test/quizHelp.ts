import { paragraphs, type PaperReview, type QuizDetail, type Taking } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { START, type TestSchool } from './school.ts';

export const HOUR = 3_600_000;
export type Who = 'student' | 'second';

/** A single choice whose first answer is right, with feedback that is known again. */
export const lever = (words = 'Which part locks?', points = 2000) => ({
  words: paragraphs(words),
  points,
  key: {
    kind: 'single',
    hasDontKnow: false,
    choices: [
      { id: 'a', words: paragraphs('the lever'), share: 100_000, feedback: paragraphs('Feedback of a right answer') },
      { id: 'b', words: paragraphs('the roller'), share: 0, feedback: null },
    ],
  },
  feedback: { right: paragraphs('Feedback when correct'), wrong: null, general: null },
});

/** One open quiz of a test school with everything that is done to it. */
export interface TestQuiz {
  readonly itemId: string;
  readonly base: string;
  readonly own: string;
  readonly detail: () => Promise<QuizDetail>;
  readonly set: (setting: object) => Promise<void>;
  readonly setItem: (change: object) => Promise<void>;
  readonly begin: (who: Who) => Promise<string>;
  readonly taking: (who: Who, attemptId: string) => Promise<Taking>;
  readonly answer: (who: Who, attemptId: string, answers: readonly (object | null)[]) => Promise<void>;
  readonly handIn: (who: Who, attemptId: string) => Promise<void>;
  readonly take: (who: Who, answers: readonly (object | null)[]) => Promise<string>;
  readonly review: (who: Who, attemptId: string) => Promise<PaperReview>;
}

export async function openQuiz(
  school: TestSchool,
  questions: readonly object[],
  setting: object = {},
  item: object = {},
): Promise<TestQuiz> {
  const { instructor } = school.agents;
  const course = `/api/courses/${school.courseId}`;
  const made = await instructor
    .post(`${course}/items`)
    .send({ unitId: school.unitId, kind: 'quiz', title: `Quiz ${randomUUID().slice(0, 6)}`, position: 0 })
    .expect(200);
  const itemId = made.body.id as string;
  const base = `${course}/quizzes/${itemId}`;
  const own = `${course}/own/quizzes/${itemId}`;
  let turn = 0;
  const quiz: TestQuiz = {
    itemId,
    base,
    own,
    detail: async () => (await instructor.get(base).expect(200)).body as QuizDetail,
    set: async (change) => {
      const { version } = (await quiz.detail()).setting;
      await instructor
        .put(base)
        .send({ version, ...change })
        .expect(200);
    },
    setItem: async (change) => {
      const { body } = await instructor.get(`${course}/items/${itemId}`).expect(200);
      await instructor
        .patch(`${course}/items/${itemId}`)
        .send({ version: body.item.version, ...change })
        .expect(200);
    },
    begin: async (who) => {
      const { body } = await school.agents[who].post(`${own}/attempts`).send({ key: randomUUID(), code: '' }).expect(200);
      return body.attemptId as string;
    },
    taking: async (who, attemptId) => (await school.agents[who].get(`${own}/attempts/${attemptId}`).expect(200)).body.taking as Taking,
    answer: async (who, attemptId, answers) => {
      const ids = (await quiz.taking(who, attemptId)).sections.flatMap((s) => s.questions).map((q) => q.id);
      for (const [n, answer] of answers.entries()) {
        turn += 1;
        const body = { answer, isFlagged: false, device: `${who}-one`, turn, seen: 0, seconds: 4 };
        if (answer !== null)
          await school.agents[who]
            .put(`${own}/attempts/${attemptId}/answers/${ids[n] ?? ''}`)
            .send(body)
            .expect(200);
      }
    },
    handIn: async (who, attemptId) => {
      await school.agents[who].post(`${own}/attempts/${attemptId}/hand-in`).expect(200);
    },
    take: async (who, answers) => {
      const attemptId = await quiz.begin(who);
      await quiz.answer(who, attemptId, answers);
      await quiz.handIn(who, attemptId);
      return attemptId;
    },
    review: async (who, attemptId) => (await school.agents[who].get(`${own}/attempts/${attemptId}/review`).expect(200)).body as PaperReview,
  };
  if (questions.length > 0) {
    const section = (await quiz.detail()).sections[0];
    await instructor.post(`${base}/questions`).send({ sectionId: section?.id, position: 0, questions }).expect(200);
  }
  if (Object.keys(setting).length > 0) await quiz.set(setting);
  await quiz.setItem({ isDraft: false, closesAt: new Date(START + 4 * HOUR).toISOString(), ...item });
  return quiz;
}
