-- What can hold a result is a column of the gradebook, not an item: an item has none, one (its work) or two (its work, and the reviewing
-- of other people's work), and a column may stand without an item. Ledger, grades, categories and late policies speak of columns.
create table grade_column (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  item_id uuid references item,
  role text not null check (role in ('work', 'reviewing', 'alone')),
  -- Null: called as its item is.
  title text check (length(title) between 1 and 160),
  category_id uuid references category,
  period_id uuid references grading_period,
  possible numeric(9, 3) not null default 0 check (possible between 0 and 10000),
  multiplier numeric(6, 3) not null default 1 check (multiplier between 0 and 100),
  is_extra_credit boolean not null default false,
  counts boolean not null default true,
  shows_statistics boolean not null default false,
  student_reads text not null default 'points' check (student_reads in ('points', 'percent', 'letter')),
  staff_reads text not null default 'points' check (staff_reads in ('points', 'percent', 'letter')),
  removed_at timestamptz,
  check ((role = 'alone') = (item_id is null)),
  check (role <> 'alone' or title is not null),
  unique (item_id, role)
);
create index grade_column_course on grade_column (course_id);
create index grade_column_category on grade_column (category_id);
create index grade_column_period on grade_column (period_id);

-- The columns of today are those of the work of their items, and keep their items' identifiers: so the ledger, which only grows, is not
-- written again. What is made from now on has an identifier of its own.
insert into grade_column (id, course_id, item_id, role, category_id, period_id, possible, multiplier, is_extra_credit, counts, shows_statistics, student_reads, staff_reads)
select id, course_id, id, 'work', category_id, period_id, possible, multiplier, is_extra_credit, counts, shows_statistics, student_reads, staff_reads
from item where kind in ('assignment', 'quiz', 'discussion', 'activity') or exists (select 1 from grade_event e where e.item_id = item.id);

alter table grade_event drop constraint grade_event_item_id_fkey;
alter table grade_event rename column item_id to column_id;
alter table grade_event add constraint grade_event_column_id_fkey foreign key (column_id) references grade_column;
alter table grade drop constraint grade_item_id_fkey;
alter table grade rename column item_id to column_id;
alter table grade add constraint grade_column_id_fkey foreign key (column_id) references grade_column;

delete from item_late l where not exists (select 1 from grade_column c where c.id = l.item_id);
alter table item_late rename to column_late;
alter table column_late drop constraint item_late_item_id_fkey;
alter table column_late rename column item_id to column_id;
alter table column_late add constraint column_late_column_id_fkey foreign key (column_id) references grade_column;

alter table item
  drop column category_id, drop column period_id, drop column possible, drop column multiplier, drop column is_extra_credit, drop column counts,
  drop column shows_statistics, drop column student_reads, drop column staff_reads;

-- An item beside the column of its work. What has no column is worth nothing and counts nowhere.
create view graded_item as
select i.id, i.course_id, i.kind, i.title, i.is_draft, i.is_required, i.announced_at, i.opens_at, i.due_at, i.closes_at, i.week, i.estimated_minutes, i.marking_minutes,
       i.done_rule, i.done_score, i.release_mode, i.release_at, i.removed_at, i.created_at, i.version, i.source_item_id, i.is_staff_only, i.opening_needs, i.next_note,
       c.id as column_id, c.category_id, c.period_id, coalesce(c.possible, 0) as possible, coalesce(c.multiplier, 1) as multiplier, coalesce(c.is_extra_credit, false) as is_extra_credit,
       coalesce(c.counts, false) as counts, coalesce(c.shows_statistics, false) as shows_statistics, coalesce(c.student_reads, 'points') as student_reads, coalesce(c.staff_reads, 'points') as staff_reads
from item i left join grade_column c on c.item_id = i.id and c.role = 'work';

-- The grade of the work of an item.
create view work_grade as
select c.item_id, g.column_id, g.enrolment_id, g.state, g.raw, g.is_released, g.last_event_id
from grade g join grade_column c on c.id = g.column_id where c.role = 'work';

grant select, insert, update, delete on grade_column to rosemary_app;
grant select on graded_item, work_grade to rosemary_app;
