-- How much work a category will hold in each grading period; where nothing is said here, what the category says of itself holds for the whole.
create table declared_work (
  category_id uuid not null references category on delete cascade,
  period_id uuid not null references grading_period on delete cascade,
  items int not null check (items between 0 and 500),
  points numeric(9, 3) not null check (points >= 0),
  primary key (category_id, period_id)
);
create index on declared_work (period_id);
grant select, insert, update, delete on declared_work to rosemary_app;
create trigger "A_keeps_past" after insert or update or delete on declared_work for each row execute function keep_past('category_id period_id', 'category');

-- A column that is read by names of its own: the levels, from the highest down to 0; null where the letters of the course hold.
alter table grade_column add column own_levels jsonb;
create or replace view graded_item as
select i.id, i.course_id, i.kind, i.title, i.is_draft, i.is_required, i.announced_at, i.opens_at, i.due_at, i.closes_at, i.week, i.estimated_minutes, i.marking_minutes,
       i.done_rule, i.done_score, i.release_mode, i.release_at, i.removed_at, i.created_at, i.version, i.source_item_id, i.is_staff_only, i.opening_needs, i.next_note,
       c.id as column_id, c.category_id, c.period_id, coalesce(c.possible, 0) as possible, coalesce(c.multiplier, 1) as multiplier, coalesce(c.is_extra_credit, false) as is_extra_credit,
       coalesce(c.counts, false) as counts, coalesce(c.shows_statistics, false) as shows_statistics, coalesce(c.student_reads, 'points') as student_reads, coalesce(c.staff_reads, 'points') as staff_reads,
       c.own_levels
from item i left join grade_column c on c.item_id = i.id and c.role = 'work';

-- Schemes kept to be used again: one's own, and those shared with everyone who teaches here.
create table kept_scheme (
  id uuid primary key,
  owner_id uuid not null references person,
  title text not null check (length(title) between 1 and 120),
  scheme jsonb not null,
  is_shared boolean not null default false,
  created_at timestamptz not null,
  removed_at timestamptz
);
create index on kept_scheme (owner_id);
grant select, insert, update, delete on kept_scheme to rosemary_app;
