import { type ArchiveDone, type ArchiveItem, type OpeningRuleWish, type PackagePreview, STORE_TYPES } from '@rosemary/api';
import { type Actor, type DocumentNode, kindOfItem, plainText, withoutFiles } from '@rosemary/core';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { addFolder as addBankFolder, addQuestion, folderOf, saveStimulus } from '../bank/index.ts';
import { addFolder, storeFile, type Zip } from '../files/index.ts';
import { MOST_ARRIVING_BYTES } from '../platform/arrival.ts';
import { putProgramme } from '../courseHome/index.ts';
import { applyPolicy, getPolicyChange } from '../gradebook/index.ts';
import { getPlanItem, putWorkingCopy, rewrite } from '../items/index.ts';
import { servedKind } from '../kinds/index.ts';
import { saveMatchSetting } from '../matching/index.ts';
import { addObjective, align, listObjectives } from '../objectives/index.ts';
import { saveOpening } from '../opening/index.ts';
import { listEmbedHosts } from '../people/index.ts';
import { addItem, addUnit, changeItem, changeUnit, getPlan, placeItem, saveVariants } from '../plan/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { makeFolder } from '../platform/folder.ts';
import { piece as doPiece } from '../platform/piece.ts';
import { inZone } from './inZone.ts';
import type { Source } from './packageRead.ts';
import { readSource } from './source.ts';

interface Bringing {
  readonly db: Db;
  readonly courseId: string;
  readonly actor: Actor;
  readonly personId: string;
  readonly now: number;
  readonly source: Source;
  readonly archive: Source['archive'];
  readonly zip: Zip;
  readonly files: Map<string, string>;
  readonly objectives: Map<string, string>;
  readonly items: Map<string, string>;
  /** Questions that came in, by their name in the archive. */
  readonly questions: Map<string, string>;
  readonly sections: ReadonlyMap<string, string>;
  readonly problems: string[];
}

/** Does one piece; what goes wrong in it is said. */
async function piece(b: Bringing, what: string, work: () => Promise<void>): Promise<boolean> {
  const done = await doPiece(b.db, work);
  if (!done.ok) b.problems.push(`${what}: ${done.reason}`);
  return done.ok;
}

async function bringFiles(b: Bringing): Promise<void> {
  const folders = new Map<string, string>();
  const left = [...b.archive.folders];
  for (let n = left.length * left.length; left.length > 0 && n > 0; n -= 1) {
    const one = left.shift();
    if (one === undefined) break;
    if (one.parentId !== null && !folders.has(one.parentId) && left.some((f) => f.id === one.parentId)) left.push(one);
    else
      await piece(b, `The folder “${one.title}”`, async () => {
        folders.set(
          one.id,
          await addFolder(b.db, b.courseId, {
            title: one.title,
            parentId: one.parentId === null ? null : (folders.get(one.parentId) ?? null),
          }),
        );
      });
  }
  const folder = await makeFolder();
  try {
    for (const file of b.archive.files) {
      const path = join(folder, 'file');
      await piece(b, `The file “${file.name}”`, async () => {
        await b.zip.writeTo(b.source.entryOf(file), path);
        const stored = await storeFile(b.db, {
          path,
          // Names from a form come as Latin-1; this one is given in the same dress.
          name: Buffer.from(file.name, 'utf8').toString('latin1'),
          courseId: b.courseId,
          ownerId: b.personId,
          types: Object.keys(STORE_TYPES),
          mostBytes: MOST_ARRIVING_BYTES.file,
          now: b.now,
          isKept: file.isKept,
          folderId: file.folderId === null ? null : (folders.get(file.folderId) ?? null),
        });
        b.files.set(file.id, stored.id);
      });
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function bringObjectives(b: Bringing): Promise<void> {
  const known = new Map((await listObjectives(b.db, b.courseId)).objectives.map((o) => [o.code.toLowerCase(), o.id]));
  for (const o of b.archive.objectives) {
    const here = o.code === '' ? undefined : known.get(o.code.toLowerCase());
    if (here !== undefined) b.objectives.set(o.id, here);
    else
      await piece(b, `The objective “${o.code || o.statement.slice(0, 40)}”`, async () => {
        const parentId = o.parentId === null ? null : (b.objectives.get(o.parentId) ?? null);
        b.objectives.set(o.id, await addObjective(b.db, b.courseId, { code: o.code, statement: o.statement, parentId }, o.id));
      });
  }
}

const sectionsOf = (b: Bringing, what: string, titles: readonly string[]): { sectionId: string; enrolmentId: null }[] =>
  titles.flatMap((title) => {
    const sectionId = b.sections.get(title.toLowerCase());
    if (sectionId !== undefined) return [{ sectionId, enrolmentId: null }];
    b.problems.push(`${what} was for the section “${title}”, which is not here.`);
    return [];
  });

async function bringItem(b: Bringing, item: ArchiveItem, unitId: string, position: number): Promise<void> {
  await piece(b, `“${item.title}”`, async () => {
    const { db, courseId, now } = b;
    const id = await addItem(db, courseId, { unitId, kind: item.kind, title: item.title, position });
    const { version } = await getPlanItem(db, courseId, id, now);
    const category =
      item.category === null
        ? null
        : ((
            await maybe<{ id: string }>(db, 'select id from category where course_id = $1 and lower(title) = lower($2)', [
              courseId,
              item.category,
            ])
          )?.id ?? null);
    if (item.category !== null && category === null)
      b.problems.push(`“${item.title}” was in the category “${item.category}”, which is not here.`);
    const taskTypeId =
      item.taskType === null
        ? null
        : ((
            await maybe<{ id: string }>(db, 'select id from task_type where removed_at is null and lower(title) = lower($1)', [
              item.taskType,
            ])
          )?.id ?? null);
    if (item.taskType !== null && taskTypeId === null)
      b.problems.push(`“${item.title}” was a task of the type “${item.taskType}”, which this school’s list does not have.`);
    const { hasOwnPoints } = kindOfItem(item.kind);
    const {
      title: own,
      isStaffOnly,
      possible,
      multiplier,
      isExtraCredit,
      counts,
      isRequired,
      announcedAt,
      opensAt,
      dueAt,
      closesAt,
    } = item;
    const { estimatedMinutes, markingMinutes, doneRule, doneScore, releaseMode, releaseAt, nextNote, late } = item;
    const { showsStatistics, studentReads, staffReads, ownLevels } = item;
    await changeItem(
      db,
      courseId,
      id,
      {
        // What has the points of what is in it is opened once that is here.
        ...{
          version,
          title: own,
          isDraft: item.isDraft || !hasOwnPoints,
          isStaffOnly,
          categoryId: category,
          ...(hasOwnPoints ? { possible } : {}),
          multiplier,
          isExtraCredit,
          counts,
          isRequired,
        },
        ...{
          announcedAt,
          opensAt,
          dueAt,
          closesAt,
          estimatedMinutes,
          markingMinutes,
          taskTypeId,
          doneRule,
          doneScore,
          releaseMode,
          releaseAt,
          nextNote,
          late,
          showsStatistics,
          studentReads,
          staffReads,
          ownLevels,
        },
        audience: sectionsOf(b, `“${item.title}”`, item.sections),
      },
      now,
    );
    b.items.set(item.id, id);
  });
}

/** The questions of quizzes join the bank of the subject, in a folder of their own, with the texts they share. */
async function bringQuestions(b: Bringing): Promise<void> {
  if (b.archive.questions.length === 0) return;
  const { db, courseId, actor, now } = b;
  const moved = <T extends object>(value: T): T => rewrite(value, b.archive.course.id, courseId, b.files, b.items);
  let folderId = await folderOf(db, courseId);
  await piece(b, 'The folder of the questions', async () => {
    folderId = await addBankFolder(db, actor, { parentId: folderId, title: `From “${b.archive.course.title.slice(0, 100)}”` });
  });
  const stimuli = new Map<string, string>();
  for (const s of b.archive.stimuli)
    await piece(b, `The shared text “${s.title}”`, async () => {
      const change = { id: null, version: 1, title: s.title, document: moved(s.document) };
      stimuli.set(s.id, (await saveStimulus(db, actor, folderId, change)).id);
    });
  for (const [n, { id, stimulusId, title, level, tags, objectives, ...content }] of b.archive.questions.entries())
    await piece(b, `The question “${title || plainText(content.words).slice(0, 60)}”`, async () => {
      const { words, key, feedback, picture } = moved(content);
      const shared = stimulusId === null ? null : (stimuli.get(stimulusId) ?? null);
      const wish = { title, level, tags, objectives, words, key, feedback, picture, stimulusId: shared };
      // A millisecond apart, so that they stand in the bank in the order they had.
      b.questions.set(id, await addQuestion(db, actor, folderId, wish, now + n));
    });
}

/** What was open where it comes from is opened once everything that is in it has come. */
async function openAgain(b: Bringing, item: ArchiveItem, itemId: string): Promise<void> {
  if (item.isDraft || kindOfItem(item.kind).hasOwnPoints) return;
  const { version } = await getPlanItem(b.db, b.courseId, itemId, b.now);
  await piece(b, `“${item.title}” stays a draft`, async () => {
    await changeItem(b.db, b.courseId, itemId, { version, isDraft: false }, b.now);
  });
}

/** Texts come once every item is here, so that their links find their new places. */
async function bringInside(b: Bringing, item: ArchiveItem): Promise<void> {
  const id = b.items.get(item.id);
  if (id === undefined) return;
  const { db, courseId, now } = b;
  const moved = <T extends object>(document: T): T => {
    const { node, lost } = withoutFiles(document as DocumentNode, (fileId) => b.files.has(fileId));
    b.problems.push(...lost.map((name) => `“${item.title}” showed “${name}”, whose file did not come; it was left out.`));
    return rewrite(node, b.archive.course.id, courseId, b.files, b.items) as T;
  };
  await piece(b, `What stands in “${item.title}”`, async () => {
    await servedKind(item.kind).bring(
      {
        ...{ db, courseId, itemId: id, actor: b.actor, now, moved },
        fileOf: (fileId) => b.files.get(fileId) ?? null,
        questionOf: (questionId) => b.questions.get(questionId) ?? null,
        problem: (text) => {
          b.problems.push(text);
        },
      },
      item,
    );
    if (item.working !== null) await putWorkingCopy(db, courseId, id, moved(item.working), b.actor.personId, now);
    if (item.matching !== null) await saveMatchSetting(db, id, { version: 0, ...item.matching });
  });
  await openAgain(b, item, id);
  if (item.isOff) await changeItem(db, courseId, id, { version: (await getPlanItem(db, courseId, id, now)).version, isOff: true }, now);
  await piece(b, `The dates and rules of “${item.title}”`, async () => {
    const variants = item.variants.flatMap((v) =>
      sectionsOf(b, `A date of “${item.title}”`, [v.section]).map((s) => ({
        ...s,
        opensAt: v.opensAt,
        dueAt: v.dueAt,
        closesAt: v.closesAt,
      })),
    );
    if (variants.length > 0) await saveVariants(db, courseId, id, { variants }, now);
    const rules = item.opening.rules.flatMap((rule): OpeningRuleWish[] => {
      if (rule.kind === 'date') return [rule];
      const other = b.items.get(rule.itemId);
      if (other !== undefined) return [{ ...rule, itemId: other }];
      b.problems.push(`“${item.title}” waited for an item that is not in the archive; the rule is left out.`);
      return [];
    });
    if (rules.length > 0) await saveOpening(db, courseId, id, { needs: item.opening.needs, rules });
    const ids = item.objectiveIds.flatMap((o) => b.objectives.get(o) ?? []);
    if (ids.length > 0) await align(db, courseId, 'item', id, ids);
  });
}

const findStanding = async (db: Db, courseId: string): Promise<string | null> =>
  (await maybe<{ id: string }>(db, 'select id from unit where course_id = $1 and is_standing and removed_at is null', [courseId]))?.id ??
  null;

async function bringUnits(b: Bringing): Promise<string[]> {
  const made: string[] = [];
  const units = new Map<unknown, string>();
  const byId = new Map(b.archive.items.map((item) => [item.id, item]));
  for (const unit of b.archive.units) {
    await piece(b, `The unit “${unit.title}”`, async () => {
      const standing = unit.isStanding ? await findStanding(b.db, b.courseId) : null;
      if (standing !== null) {
        // Standing pages join those that are here.
        units.set(unit, standing);
        return;
      }
      const unitId = await addUnit(b.db, b.courseId, unit.title, unit.isStanding);
      units.set(unit, unitId);
      const { announcedAt, opensAt, closesAt, isStaffOnly } = unit;
      const audience = sectionsOf(b, `The unit “${unit.title}”`, unit.sections);
      await changeUnit(b.db, b.courseId, unitId, { version: 1, announcedAt, opensAt, closesAt, isStaffOnly, audience });
      made.push(unitId);
    });
    const unitId = units.get(unit);
    for (const [position, itemId] of unit.itemIds.entries()) {
      const item = byId.get(itemId);
      const here = b.items.get(itemId);
      if (unitId === undefined || item === undefined) continue;
      if (here === undefined) await bringItem(b, item, unitId, position);
      else await placeItem(b.db, unitId, here, position);
    }
  }
  return made;
}

/**
 * Brings an archive into a course, beside what is there and never over it, piece by piece: a piece that cannot be taken is left
 * out and said, and keeps no other out. A course with nothing in it takes the policy as well.
 */
export async function bringArchive(db: Db, courseId: string, zip: Zip, actor: Actor, now: number): Promise<ArchiveDone> {
  const source = await readSource(zip, await listEmbedHosts(db));
  const course = await maybe<{ time_zone: string }>(db, 'select time_zone from course where id = $1', [courseId]);
  const archive = inZone(source.archive, course?.time_zone ?? 'UTC');
  const { policy } = archive;
  const isEmpty = (await getPlan(db, courseId, now)).units.every((u) => u.items.length === 0);
  const sections = await rows<{ id: string; title: string }>(
    db,
    'select id, title from section where course_id = $1 and removed_at is null',
    [courseId],
  );
  const b: Bringing = {
    db,
    courseId,
    actor,
    personId: actor.personId,
    now,
    source,
    archive,
    zip,
    files: new Map(),
    objectives: new Map(),
    items: new Map(),
    questions: new Map(),
    sections: new Map(sections.map((s) => [s.title.toLowerCase(), s.id])),
    problems: [...source.problems],
  };
  if (policy !== null && isEmpty)
    await piece(b, 'The policy', async () => {
      const { version } = await getPolicyChange(db, courseId);
      const { after } = await applyPolicy(db, courseId, {
        ...policy,
        version,
        categories: policy.categories.map((c) => ({ ...c, id: null, declaredIn: [] })),
        periods: policy.periods.map((p) => ({ ...p, id: null })),
        moves: [],
      });
      if (policy.categories.every((c) => c.declaredIn.length === 0)) return;
      // What is said of a period can be written once the period is here.
      const made = new Map(policy.periods.map((p, n) => [p.id, after.periods[n]?.id ?? '']));
      const declared = (n: number) =>
        (policy.categories[n]?.declaredIn ?? []).flatMap((d) => {
          const periodId = made.get(d.periodId);
          return periodId === undefined ? [] : [{ ...d, periodId }];
        });
      await applyPolicy(db, courseId, {
        ...after,
        categories: after.categories.map((c, n) => ({ ...c, declaredIn: declared(n) })),
        moves: [],
      });
    });
  else if (policy !== null) b.problems.push('The policy stays as it is here: the course has items already.');
  await bringFiles(b);
  await bringObjectives(b);
  const unitIds = await bringUnits(b);
  await bringQuestions(b);
  for (const item of archive.items) await bringInside(b, item);
  const { programme } = archive;
  if (programme !== null)
    await piece(b, 'The words of the programme', async () => {
      await putProgramme(db, courseId, programme);
    });
  return { itemIds: [...b.items.values()], unitIds, files: b.files.size, problems: b.problems };
}

/** What would come in, read and not taken. */
export async function previewPackage(db: Db, zip: Zip): Promise<PackagePreview> {
  const source = await readSource(zip, await listEmbedHosts(db));
  const { course, units, items, files, policy } = source.archive;
  const byId = new Map(items.map((item) => [item.id, item]));
  return {
    kind: source.kind,
    title: course.title,
    units: units.map((unit) => ({
      title: unit.title,
      items: unit.itemIds.flatMap((id) => {
        const item = byId.get(id);
        return item === undefined ? [] : [{ title: item.title, kind: item.kind }];
      }),
    })),
    items: items.length,
    files: files.length,
    bytes: files.reduce((sum, file) => sum + (zip.sizes.get(source.entryOf(file)) ?? 0), 0),
    hasPolicy: policy !== null,
    problems: source.problems,
  };
}
