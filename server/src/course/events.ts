import * as api from '@rosemary/api/endpoints';
import type { CourseEvent } from '@rosemary/api';
import type { Membership } from '@rosemary/core';
import { AppError } from '../platform/errors.ts';
import { implement, type Route } from '../platform/route.ts';
import type { Announced } from '../platform/events.ts';

const HEARTBEAT_MS = 25_000;
/** After this the browser asks again, and is refused if the session has ended meanwhile. */
const STREAM_MS = 10 * 60_000;
/** When a browser whose line ended asks again, and how far a crowd is spread over the time after it. */
const [BACK_MS, SPREAD] = [2000, 4];

/** What of an event this member may hear; null is nothing. */
export function heardBy(member: Membership, event: Announced): CourseEvent | null {
  const { topic, itemId, enrolmentId, rows, tab, by, hearers } = event;
  const isStudent = member.role === 'student';
  const isFor = hearers === 'everybody' || (hearers === 'staff' ? !isStudent : hearers.includes(member.enrolmentId));
  if (!isFor) return null;
  if (isStudent) return { topic, itemId, enrolmentId: null, rows: null, tab, by: '' };
  // An assistant of some sections hears that something changed, not about whom.
  const reachesAll = member.sectionIds === null;
  return { topic, itemId, enrolmentId: reachesAll ? enrolmentId : null, rows: reachesAll ? rows : null, tab, by };
}

export const courseEventRoutes: readonly Route[] = [
  implement(api.listenToCourse, ({ courseId, member, request, response, events }) => {
    if (request.get('accept')?.includes('text/event-stream') !== true)
      throw new AppError('invalid', 'This address tells of changes as they happen: ask for text/event-stream.');
    response.set({ 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform', 'x-accel-buffering': 'no' });
    response.flushHeaders();
    response.write(`retry: ${BACK_MS}\n\n`);
    const sendAway = (): void => {
      // A crowd that is sent away together comes back one by one.
      response.end(`retry: ${Math.round(BACK_MS * (1 + Math.random() * SPREAD))}\n\n`);
    };
    const leave = events.subscribe(
      courseId,
      (event) => {
        const heard = heardBy(member, event);
        if (heard !== null) response.write(`data: ${JSON.stringify(heard)}\n\n`);
        // Whose part in the course was changed comes back with the part they have now, or is refused.
        if (event.topic === 'people' && event.enrolmentId === member.enrolmentId) sendAway();
      },
      sendAway,
    );
    const beat = setInterval(() => response.write(': still here\n\n'), HEARTBEAT_MS);
    const end = setTimeout(() => response.end(), STREAM_MS);
    request.on('close', () => {
      leave();
      clearInterval(beat);
      clearTimeout(end);
    });
    return Promise.resolve();
  }),
];
