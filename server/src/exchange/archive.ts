import { ARCHIVE_FORMAT, ARCHIVE_VERSION, type Archive, type ArchiveItem, type RubricChange } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { getFileStore } from '../files/index.ts';
import { getPolicyChange } from '../gradebook/index.ts';
import { getSettings } from '../course/index.ts';
import { listObjectives } from '../objectives/index.ts';
import { getPlan } from '../plan/index.ts';
import { maybe, rows, type Db } from '../platform/database.ts';
import { readArchiveQuizzes } from './archiveQuizzes.ts';

interface Inside {
  item_id: string;
  document: DocumentNode | null;
  assignment: NonNullable<ArchiveItem['assignment']> | null;
  rubric: RubricChange['criteria'] | null;
  link: ArchiveItem['link'];
  file: ArchiveItem['file'];
  discussion: ArchiveItem['discussion'];
  objective_ids: string[];
  matching: ArchiveItem['matching'];
}

/** What stands in the items of a course, in one reading. */
const listInside = (db: Db, courseId: string): Promise<Inside[]> =>
  rows<Inside>(
    db,
    `
    select i.id as item_id, p.document,
           case when a.item_id is not null then json_build_object('instructions', a.instructions, 'acceptsText', a.accepts_text, 'acceptsFiles', a.accepts_files, 'fileTypes', a.file_types,
                'mostFiles', a.most_files, 'mostBytes', a.most_bytes, 'attemptsAllowed', a.attempts_allowed, 'acceptsLink', a.accepts_link, 'acceptsRecording', a.accepts_recording, 'onPaper', a.on_paper, 'judged', a.judged, 'counted', a.counted,
                'groupSetId', null, 'allowsWithdrawal', a.allows_withdrawal, 'anonymous', a.anonymous, 'anonymousUntil', a.anonymous_until, 'markers', a.markers) end as assignment,
           (select json_agg(json_build_object('id', null, 'title', c.title, 'form', c.form, 'levels', (select coalesce(json_agg(json_build_object('id', null, 'title', l.title, 'descriptor', l.descriptor, 'points', (l.points * 1000)::int, 'least', (l.least * 1000)::int, 'upTo', l.up_to) order by l.position), '[]')
                            from rubric_level l where l.criterion_id = c.id and l.removed_at is null)) order by c.position)
            from rubric_criterion c where c.rubric_id = a.rubric_id and c.removed_at is null) as rubric,
           case when k.item_id is not null then json_build_object('address', k.address, 'note', k.note) end as link,
           case when s.item_id is not null then json_build_object('fileId', s.file_id, 'note', s.note) end as file,
           case when d.item_id is not null then json_build_object('document', d.document, 'isPostFirst', d.is_post_first) end as discussion,
           coalesce((select array_agg(u.objective_id order by o.position, o.id) from objective_use u join objective o on o.id = u.objective_id and o.removed_at is null where u.item_id = i.id), '{}') as objective_ids,
           case when m.item_id is not null then json_build_object('looksAtClass', m.looks_at_class, 'looksAtEarlier', m.looks_at_earlier, 'looksAtCollection', m.looks_at_collection, 'leavesQuotations', m.leaves_quotations, 'showsStudents', m.shows_students, 'joinsCollection', m.joins_collection) end as matching
    from item i left join page p on p.item_id = i.id left join assignment a on a.item_id = i.id left join item_link k on k.item_id = i.id
    left join item_shown_file s on s.item_id = i.id left join discussion d on d.item_id = i.id left join match_setting m on m.item_id = i.id where i.course_id = $1 and i.removed_at is null`,
    [courseId],
  );

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
  const inside = new Map((await listInside(db, courseId)).map((row) => [row.item_id, row]));
  const policy = await getPolicyChange(db, courseId);
  const programme = await maybe<{ document: DocumentNode }>(db, 'select document from course_programme where course_id = $1', [courseId]);
  const categories = new Map(plan.categories.map((c) => [c.id, c.title]));
  const quizzes = await readArchiveQuizzes(db, [...new Set(plan.units.flatMap((u) => u.items.filter((i) => i.kind === 'quiz').map((i) => i.id)))]); // prettier-ignore
  const seen = new Set<string>();
  const items = plan.units
    .flatMap((u) => u.items)
    // One item may stand in several units; it is written once.
    .filter((i) => !seen.has(i.id) && seen.add(i.id))
    .map((i): ArchiveItem => {
      const own = inside.get(i.id);
      return {
        id: i.id,
        kind: i.kind,
        title: i.title,
        // What was for groups or single people alone has nobody to be for elsewhere; it is not to be seen by all because of that.
        isDraft: i.isDraft || (i.audience.length > 0 && names(i.audience).length === 0),
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
        late: i.late,
        matching: own?.matching ?? null,
        page: own?.document ?? null,
        assignment: own?.assignment ?? null,
        rubric: own?.rubric ?? [],
        link: own?.link ?? null,
        file: own?.file ?? null,
        discussion: own?.discussion ?? null,
        quiz: quizzes.quizzes.get(i.id) ?? null,
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
    policy: { ...policy, version: undefined, categories: policy.categories.map((c) => ({ ...c, id: null })) } as Archive['policy'],
    programme: programme?.document ?? null,
    folders: store.folders.map((f) => ({ id: f.id, parentId: f.parentId, title: f.title })),
    files: [
      ...store.files.map((f) => ({
        ...{ id: f.id, name: f.name, folderId: f.folderId, size: f.size },
        ...{ sha256: hashes.get(f.id) ?? '', isKept: true },
      })),
      ...quizzes.files.filter((f) => !store.files.some((held) => held.id === f.id)),
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
    stimuli: quizzes.stimuli,
    questions: quizzes.questions,
  };
}
