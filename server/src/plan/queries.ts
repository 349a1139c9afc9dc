import type { AudienceName, Plan, PlanUnit } from '@rosemary/api';
import { audienceSql, ITEM_SQL, type ItemRow, toItem } from '../items/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { isoOf } from '../platform/instants.ts';
import { getTerm } from '../term/index.ts';

interface UnitRow {
  id: string;
  title: string;
  announced_at: Date | null;
  opens_at: Date | null;
  closes_at: Date | null;
  is_staff_only: boolean;
  is_standing: boolean;
  audience: AudienceName[];
  version: number;
}

async function listUnits(db: Db, courseId: string): Promise<Omit<PlanUnit, 'items'>[]> {
  const found = await rows<UnitRow>(
    db,
    `
    select u.id, u.title, u.announced_at, u.opens_at, u.closes_at, u.is_staff_only, u.is_standing, ${audienceSql('a.unit_id = u.id')} as audience, u.version
    from unit u where u.course_id = $1 and u.removed_at is null order by not u.is_standing, u.position, u.id`,
    [courseId],
  );
  return found.map((u) => ({
    id: u.id,
    title: u.title,
    announcedAt: isoOf(u.announced_at),
    opensAt: isoOf(u.opens_at),
    closesAt: isoOf(u.closes_at),
    isStaffOnly: u.is_staff_only,
    isStanding: u.is_standing,
    audience: u.audience,
    version: u.version,
  }));
}

export async function getPlan(db: Db, courseId: string, now: number): Promise<Plan> {
  const calendar = await getTerm(db, courseId);
  const units = await listUnits(db, courseId);
  const items = await rows<ItemRow>(db, `${ITEM_SQL} order by ui.position, i.id`, [courseId]);
  const categories = await rows<{ id: string; title: string }>(
    db,
    'select id, title from category where course_id = $1 order by position',
    [courseId],
  );
  const arranged = await maybe<{ many: number }>(
    db,
    'select count(distinct a.enrolment_id)::int as many from arrangement a join enrolment e on e.id = a.enrolment_id where e.course_id = $1 and e.withdrawn_at is null',
    [courseId],
  );
  return {
    units: units.map((unit): PlanUnit => ({
      ...unit,
      items: items.filter((row) => row.unit_id === unit.id).map((row) => toItem(row, calendar, now)),
    })),
    categories,
    arrangements: arranged?.many ?? 0,
    term: calendar.term,
  };
}
