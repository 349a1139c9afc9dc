import {
  ARCHIVE_FORMAT,
  ARCHIVE_VERSION,
  type Archive,
  type ArchiveFile,
  type ArchiveItem,
  type ArchiveQuestion,
  type ArchiveStimulus,
  type PlanItem,
} from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { getFileStore } from '../files/index.ts';
import { getPolicyChange } from '../gradebook/index.ts';
import { getSettings } from '../course/index.ts';
import { listObjectives } from '../objectives/index.ts';
import { getPlan } from '../plan/index.ts';
import { maybe, rows, type Db } from '../platform/database.ts';
import { byKind } from '../kinds/index.ts';

/** What items of any kind have beside their row: what they serve, and how their works are compared. */
const listBeside = (db: Db, courseId: string) =>
  rows<{ item_id: string; objective_ids: string[]; matching: ArchiveItem['matching']; working: ArchiveItem['working'] }>(
    db,
    `
    select i.id as item_id, w.document as working,
           coalesce((select array_agg(u.objective_id order by o.position, o.id) from objective_use u join objective o on o.id = u.objective_id and o.removed_at is null where u.item_id = i.id), '{}') as objective_ids,
           case when m.item_id is not null then json_build_object('looksAtClass', m.looks_at_class, 'looksAtEarlier', m.looks_at_earlier, 'looksAtCollection', m.looks_at_collection, 'leavesQuotations', m.leaves_quotations, 'showsStudents', m.shows_students, 'joinsCollection', m.joins_collection) end as matching
    from item i left join match_setting m on m.item_id = i.id left join working_copy w on w.item_id = i.id where i.course_id = $1 and i.removed_at is null`,
    [courseId],
  );

/** What is in the items, each kind with its own reading. */
async function readInside(db: Db, items: readonly PlanItem[]) {
  const inside = new Map<string, Partial<ArchiveItem>>();
  const beside = { questions: [] as ArchiveQuestion[], stimuli: [] as ArchiveStimulus[], files: [] as ArchiveFile[] };
  for (const [kind, own] of byKind(items)) {
    const read = await kind.readOut(
      db,
      own.map((item) => item.id),
    );
    for (const [id, part] of read.items) inside.set(id, part);
    beside.questions.push(...(read.questions ?? []));
    beside.stimuli.push(...(read.stimuli ?? []));
    beside.files.push(...(read.files ?? []));
  }
  return { inside, ...beside };
}

const names = (audience: readonly { sectionId: string | null; name: string }[]): string[] =>
  audience.flatMap((one) => (one.sectionId === null ? [] : [one.name]));

/** Everything a course is made of, without its people: what an archive holds. Pure but for the readings; the order is that of the Plan. */
export async function makeArchive(db: Db, courseId: string, now: number): Promise<Archive> {
  const settings = await getSettings(db, courseId);
  const plan = await getPlan(db, courseId, now);
  const store = await getFileStore(db, courseId);
  const hashes = new Map(
    (
      await rows<{ id: string; hash: string }>(db, "select id, encode(sha256, 'hex') as hash from file where course_id = $1 and is_kept", [
        courseId,
      ])
    ).map((f) => [f.id, f.hash]),
  );
  const beside = new Map((await listBeside(db, courseId)).map((row) => [row.item_id, row]));
  const policy = await getPolicyChange(db, courseId);
  const programme = await maybe<{ document: DocumentNode }>(db, 'select document from course_programme where course_id = $1', [courseId]);
  const taskTypes = new Map(
    (await rows<{ id: string; title: string }>(db, 'select id, title from task_type')).map((type) => [type.id, type.title]),
  );
  const categories = new Map(plan.categories.map((c) => [c.id, c.title]));
  const seen = new Set<string>();
  // One item may stand in several units; it is written once.
  const planned = plan.units.flatMap((u) => u.items).filter((i) => !seen.has(i.id) && seen.add(i.id));
  const read = await readInside(db, planned);
  const items = planned.map((i): ArchiveItem => {
    const own = beside.get(i.id);
    return {
      id: i.id,
      kind: i.kind,
      title: i.title,
      // What was for groups or single people alone has nobody to be for elsewhere; it is not to be seen by all because of that.
      isOff: i.isOff,
      isDraft: i.isDraftOnceOn || (i.audience.length > 0 && names(i.audience).length === 0),
      isStaffOnly: i.isStaffOnly,
      category: i.categoryId === null ? null : (categories.get(i.categoryId) ?? null),
      possible: i.possible,
      multiplier: i.multiplier,
      isExtraCredit: i.isExtraCredit,
      counts: i.counts,
      isRequired: i.isRequired,
      announcedAt: i.announcedAt,
      opensAt: i.opensAt,
      dueAt: i.dueAt,
      closesAt: i.closesAt,
      estimatedMinutes: i.estimatedMinutes,
      markingMinutes: i.markingMinutes,
      taskType: i.taskTypeId === null ? null : (taskTypes.get(i.taskTypeId) ?? null),
      doneRule: i.doneRule,
      doneScore: i.doneScore,
      releaseMode: i.releaseMode,
      releaseAt: i.releaseAt,
      nextNote: i.nextNote,
      opening: i.opening,
      sections: names(i.audience),
      variants: i.variants.flatMap((v) =>
        v.sectionId === null ? [] : [{ section: v.name, opensAt: v.opensAt, dueAt: v.dueAt, closesAt: v.closesAt }],
      ),
      objectiveIds: own?.objective_ids ?? [],
      showsStatistics: i.showsStatistics,
      studentReads: i.studentReads,
      staffReads: i.staffReads,
      ownLevels: i.ownLevels === null ? null : [...i.ownLevels],
      late: i.late,
      matching: own?.matching ?? null,
      working: own?.working ?? null,
      ...{ page: null, assignment: null, rubric: [], peer: null, link: null, file: null, discussion: null, quiz: null },
      ...read.inside.get(i.id),
    };
  });
  return {
    format: ARCHIVE_FORMAT,
    version: ARCHIVE_VERSION,
    course: {
      id: courseId,
      title: settings.title,
      description: settings.description,
      language: settings.language,
      timeZone: settings.timeZone,
    },
    policy: {
      ...policy,
      version: undefined,
      categories: policy.categories.map((c) => ({ ...c, id: null })),
    } as Archive['policy'],
    programme: programme?.document ?? null,
    folders: store.folders.map((f) => ({ id: f.id, parentId: f.parentId, title: f.title })),
    files: [
      ...store.files.map((f) => ({
        ...{ id: f.id, name: f.name, folderId: f.folderId, size: f.size },
        ...{ sha256: hashes.get(f.id) ?? '', isKept: true },
      })),
      ...read.files.filter((f) => !store.files.some((held) => held.id === f.id)),
    ],
    objectives: (await listObjectives(db, courseId)).objectives.map((o) => ({
      id: o.id,
      parentId: o.parentId,
      code: o.code,
      statement: o.statement,
    })),
    units: plan.units.map((u) => ({
      title: u.title,
      announcedAt: u.announcedAt,
      opensAt: u.opensAt,
      closesAt: u.closesAt,
      isStaffOnly: u.isStaffOnly,
      isStanding: u.isStanding,
      sections: names(u.audience),
      itemIds: u.items.map((i) => i.id),
    })),
    items,
    stimuli: read.stimuli,
    questions: read.questions,
  };
}
