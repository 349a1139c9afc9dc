import type { Membership } from '@rosemary/core';
import { replyTo, sendMessage, type Db } from '@rosemary/server';
import { idOf } from './adding.ts';
import type { Built } from './school.ts';

const membership = (courseId: string, role: Membership['role']): Membership => ({
  courseId,
  enrolmentId: idOf(courseId + role),
  role,
  sectionIds: null,
  isActive: true,
});

/** What is written between two alone: a teacher to those who have gone quiet, a student with a question. */
export async function writeLetters(db: Db, { courseId, students, staff, calendar }: Built): Promise<void> {
  const teacher = (week: number, day: number, time: string) => ({
    courseId,
    personId: staff.Ines ?? '',
    member: membership(courseId, 'instructor'),
    now: calendar.at(week, day, time),
  });
  const quiet = students.filter((s) => s.habit === 'silent since week 5' || s.habit === 'falling').slice(0, 3);
  await sendMessage(db, teacher(7, 5, '17:05'), {
    key: idOf('letter to the quiet'),
    title: 'Is something in the way?',
    body: 'I have not seen you at the bench for a while, and nothing of yours has come in. If something keeps you, tell me; there is time to put the work in another order.',
    personIds: quiet.map((s) => s.personId),
  });
  const asking = students.find((s) => s.habit === 'far ahead') ?? students[0];
  if (asking === undefined) return;
  const student = { courseId, personId: asking.personId, member: membership(courseId, 'student'), now: calendar.at(9, 1, '19:42') };
  const { messages } = await sendMessage(db, student, {
    key: idOf('question of one ahead'),
    title: 'May I bring my own movement?',
    body: 'My grandfather left me a pocket watch with a pin-pallet escapement. May I use it for the second strip-down, or should it be a lever?',
    personIds: [staff.Ines ?? ''],
  });
  const id = messages.conversations[0]?.id ?? '';
  await replyTo(db, teacher(9, 2, '08:15'), id, {
    key: idOf('answer to one ahead'),
    body: 'Bring it, and bring it closed. For the log it should be a lever, so that we can compare; the pin-pallet you show to everybody in week 11.',
  });
  await replyTo(db, { ...student, now: calendar.at(9, 2, '21:10') }, id, {
    key: idOf('thanks of one ahead'),
    body: 'Thank you. It stays shut until then.',
  });
}
