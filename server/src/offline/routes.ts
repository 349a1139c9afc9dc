import type { SheetDone, SheetPreview, StackEntry } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { formatPoints, plainText } from '@rosemary/core';
import { getCourse } from '../course/index.ts';
import { sendBytes, sendZip } from '../files/index.ts';
import { listReached, makeStack, reach } from '../marking/index.ts';
import { getMark, listNotes } from '../marks/index.ts';
import { getVisible } from '../opening/index.ts';
import { markedCopy } from '../paper/index.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { bringSheet, previewSheet } from './bringSheet.ts';
import { readMarked } from './readMarked.ts';
import { readSheet } from './readSheet.ts';
import { type ArchivedWork, asOfText, fileSafe, listWorkParts } from './workArchive.ts';

const stackOf = (c: MemberContext<unknown>) => makeStack(c.db, c.courseId, c.params.itemId ?? '', c.member, c.person.personId, c.now);

/** Every work of the stack with what its marker has given so far. */
async function listArchived(c: MemberContext<unknown>): Promise<{ works: ArchivedWork[]; title: string; possible: string }> {
  const stack = await stackOf(c);
  const reached = await listReached(
    c,
    stack.item.id,
    stack.entries.map((e) => e.enrolmentId),
  );
  const works = await Promise.all(
    reached.map(async ({ target, part }, n): Promise<ArchivedWork> => {
      const entry = stack.entries[n] as StackEntry;
      const [mark, notes] = await Promise.all([
        getMark(c.db, target, part.kind === 'looks' ? 1 : part.slot),
        listNotes(c.db, target.itemId, target.enrolmentId),
      ]);
      return {
        entry,
        enrolmentId: target.enrolmentId,
        points: mark.total === null ? '' : formatPoints(mark.total),
        feedback: plainText(mark.feedback).trim(),
        asOf: asOfText(mark.version, entry.attempt),
        notes: notes.filter((note) => note.fileId === null),
      };
    }),
  );
  return { works, title: stack.item.title, possible: formatPoints(stack.item.possible) };
}

/** Fields that came beside the file of a form. */
function fieldsOf(c: MemberContext<unknown>): { leave: ReadonlySet<string>; takeOlder: ReadonlySet<string>; finishes: boolean } {
  const body = (c.request.body ?? {}) as { leave?: unknown; takeOlder?: unknown; finishes?: unknown };
  const listOf = (value: unknown): ReadonlySet<string> =>
    new Set(typeof value === 'string' ? value.split(',').filter((id) => id !== '') : []);
  return { leave: listOf(body.leave), takeOlder: listOf(body.takeOlder), finishes: body.finishes === 'true' };
}

export const offlineRoutes: readonly Route[] = [
  implement(api.getWorksArchive, async (c) => {
    const { works, title, possible } = await listArchived(c);
    return sendZip(`${fileSafe(title)}.zip`, new Date(c.now), c.response, (read) => listWorkParts(read, c.params.itemId, works, possible));
  }),
  implement(api.previewScoreSheet, async (c): Promise<SheetPreview> =>
    previewSheet(c, await readSheet(c.file.path, c.file.name), (await stackOf(c)).entries),
  ),
  implement(api.importScoreSheet, async (c): Promise<SheetDone> => {
    const { path, name } = c.file;
    const { leave, takeOlder, finishes } = fieldsOf(c);
    const done = await bringSheet(c, await readSheet(path, name), (await stackOf(c)).entries, { leave, takeOlder, finishes }, path);
    c.account({ after: done });
    return done;
  }),
  implement(api.getWorkOnPaper, async (c) => {
    const r = await reach(c);
    const { time_zone: zone } = await getCourse(c.db, c.courseId);
    const stack = await stackOf(c);
    const entry = stack.entries.find((e) => e.enrolmentId === c.params.enrolmentId);
    const name = `${r.person.givenName} ${r.person.familyName}`;
    const who = r.isVeiled
      ? `Work ${entry?.familyName ?? ''}`
      : entry !== undefined && entry.members.length > 0
        ? entry.members.join(', ')
        : name;
    const marked = await readMarked(c.db, r.target, { who, isVeiled: r.isVeiled, isStudent: false, zone, now: c.now });
    if (marked === null) throw notFound();
    const bytes = await markedCopy(marked);
    sendBytes(
      bytes,
      { name: `${fileSafe(`${marked.title} ${r.isVeiled ? who : name}`)}.pdf`, mediaType: 'application/pdf' },
      c.request,
      c.response,
    );
  }),
  implement(api.getOwnWorkOnPaper, async (c) => {
    const { item } = await getVisible(c.db, c.courseId, c.params.itemId, c.member, c.now);
    const { time_zone: zone } = await getCourse(c.db, c.courseId);
    const who = `${c.person.givenName} ${c.person.familyName}`;
    const marked = await readMarked(
      c.db,
      { itemId: item.id, enrolmentId: c.member.enrolmentId },
      { who, isVeiled: false, isStudent: true, zone, now: c.now },
    );
    if (marked === null) throw notFound();
    const bytes = await markedCopy(marked);
    sendBytes(bytes, { name: `${fileSafe(marked.title)}.pdf`, mediaType: 'application/pdf' }, c.request, c.response);
  }),
];
