import { addCourse, rows, run, type Db } from '@rosemary/server';

/** A course with many students and items, each result of them given. */
export async function layOutLargeCourse(db: Db, students: number, items: number): Promise<{ courseId: string; personId: string }> {
  const ines = (await rows<{ id: string }>(db, "select id from person where given_name = 'Ines'"))[0]?.id ?? '';
  const term = (await rows<{ id: string }>(db, "select id from term where title = 'Autumn'"))[0]?.id ?? '';
  const courseId = await addCourse(
    db,
    {
      code: 'BENCH',
      run: String(Date.now()).slice(-9),
      title: 'Large course',
      termId: term,
      timeZone: 'Europe/Lisbon',
      instructorId: ines,
      sections: ['One'],
    },
    true,
  );
  const section = (await rows<{ id: string }>(db, 'select id from section where course_id = $1', [courseId]))[0]?.id;
  const category = (await rows<{ id: string }>(db, 'select id from category where course_id = $1 limit 1', [courseId]))[0]?.id;
  await run(
    db,
    "with p as (insert into person (email, given_name, family_name) select 'b' || n || $2 || '@bench.example', 'Given' || n, 'Family' || n from generate_series(1, $3::int) n returning id) insert into enrolment (course_id, person_id, role, section_id) select $1, id, 'student', $4 from p",
    [courseId, courseId, students, section],
  );
  const unit = (
    await rows<{ id: string }>(db, "insert into unit (course_id, title, position) values ($1, 'Unit', 0) returning id", [courseId])
  )[0]?.id;
  await run(
    db,
    `with i as (insert into item (course_id, kind, title, is_draft, done_rule, due_at) select $1, 'activity', 'Item ' || n, false, 'marked', now() from generate_series(1, $3::int) n returning id),
    c as (insert into grade_column (course_id, item_id, role, category_id, possible) select $1, id, 'work', $2, 50 from i)
    insert into unit_item (unit_id, item_id, position) select $4, id, row_number() over () from i`,
    [courseId, category, items, unit],
  );
  await run(
    db,
    `with e as (insert into grade_event (column_id, enrolment_id, kind, state, raw, is_released, source, actor_id, at)
    select c.id, e.id, 'set', 'scored', 20 + (random() * 60)::int / 2.0, true, 'demo', $2, now() from grade_column c, enrolment e where c.course_id = $1 and e.course_id = $1 and e.role = 'student' and not e.is_sample returning *)
    insert into grade (column_id, enrolment_id, state, raw, is_released, last_event_id) select column_id, enrolment_id, state, raw, is_released, id from e`,
    [courseId, ines],
  );
  return { courseId, personId: ines };
}
