-- Visits are kept by day, so that a term of a large school stays small; a school keeps a list of task types and says for how long
-- recorded activity is kept; a course says what students see of their progress.

-- When a student opened an item first and last. What is done when it is opened rests on this, so it stays.
create table item_opened (
  enrolment_id uuid not null references enrolment,
  item_id uuid not null references item,
  first_at timestamptz not null,
  last_at timestamptz not null check (last_at >= first_at),
  primary key (enrolment_id, item_id)
);
insert into item_opened (enrolment_id, item_id, first_at, last_at) select enrolment_id, item_id, min(at), max(at) from visit group by 1, 2;
create index item_opened_item on item_opened (item_id, enrolment_id);

create table visit_of_day (
  enrolment_id uuid not null references enrolment,
  -- The day in the zone of the course.
  day date not null,
  item_id uuid not null references item,
  doing text not null check (doing in ('reading', 'writing', 'talking')),
  last_at timestamptz not null,
  times int not null default 1 check (times >= 0),
  seconds int not null default 0 check (seconds between 0 and 86400),
  longest_seconds int not null default 0 check (longest_seconds between 0 and 86400),
  -- One bit for each hour of the day in which there was something: 1 for the hour after midnight.
  hours int not null default 0 check (hours between 0 and 16777215),
  -- The days of a student are read in order from the key alone.
  primary key (enrolment_id, day, item_id, doing) include (seconds, longest_seconds, hours)
);
-- What was recorded before says no more than that an item was looked at.
insert into visit_of_day (enrolment_id, day, item_id, doing, last_at, times, seconds, longest_seconds, hours)
select v.enrolment_id, (v.at at time zone c.time_zone)::date, v.item_id, 'reading',
       max(v.at), greatest(1, count(*) filter (where v.seconds = 0)), least(86400, sum(v.seconds)), max(v.seconds),
       bit_or(1 << extract(hour from v.at at time zone c.time_zone)::int)
from visit v join item i on i.id = v.item_id join course c on c.id = i.course_id group by 1, 2, 3;
drop table visit;
alter table visit_of_day rename to visit;
alter index visit_of_day_pkey rename to visit_pkey;

create table task_type (
  id uuid primary key default gen_random_uuid(),
  title text not null check (length(title) between 1 and 60),
  position int not null default 0,
  removed_at timestamptz
);
create unique index task_type_title on task_type (lower(title)) where removed_at is null;
alter table item add column task_type_id uuid references task_type;
create index item_task_type on item (task_type_id);

alter table school
  -- For how many months it is kept who was where and when.
  add column activity_months int not null default 24 check (activity_months between 1 and 120),
  -- The day on which older activity was last forgotten.
  add column activity_forgotten_on date,
  add column shows_visits_against_results boolean not null default true;
alter table course
  add column progress_shows text not null default 'own' check (progress_shows in ('nothing', 'own', 'class')),
  -- From which share of the points an objective counts as reached, and from which with merit.
  add column reached_percent numeric(6, 3) not null default 60 check (reached_percent between 0 and 100),
  add column merit_percent numeric(6, 3) not null default 85 check (merit_percent between 0 and 100),
  add check (reached_percent <= merit_percent);

grant select, insert, update, delete on visit, item_opened, task_type to rosemary_app;
create or replace view graded_item as
select i.id, i.course_id, i.kind, i.title, i.is_draft, i.is_required, i.announced_at, i.opens_at, i.due_at, i.closes_at, i.week, i.estimated_minutes, i.marking_minutes,
       i.done_rule, i.done_score, i.release_mode, i.release_at, i.removed_at, i.created_at, i.version, i.source_item_id, i.is_staff_only, i.opening_needs, i.next_note,
       c.id as column_id, c.category_id, c.period_id, coalesce(c.possible, 0) as possible, coalesce(c.multiplier, 1) as multiplier, coalesce(c.is_extra_credit, false) as is_extra_credit,
       coalesce(c.counts, false) as counts, coalesce(c.shows_statistics, false) as shows_statistics, coalesce(c.student_reads, 'points') as student_reads, coalesce(c.staff_reads, 'points') as staff_reads,
       c.own_levels, i.task_type_id
from item i left join grade_column c on c.item_id = i.id and c.role = 'work';

-- Who needs a word: the rules of a course, where they are others than those it begins with, and what was done for whom.
create table word_rule (
  course_id uuid not null references course,
  rule text not null check (rule in ('missing', 'silence', 'fall', 'below', 'not begun', 'fast', 'far above')),
  is_on boolean not null,
  threshold int not null check (threshold between 1 and 120),
  out_of int check (out_of between 1 and 60),
  primary key (course_id, rule)
);
create table word_note (
  id uuid primary key,
  course_id uuid not null references course,
  enrolment_id uuid not null references enrolment,
  -- The rule that it was done for; null where it was noted on the student’s page.
  rule text check (rule in ('missing', 'silence', 'fall', 'below', 'not begun', 'fast', 'far above')),
  kind text not null check (kind in ('wrote', 'called', 'met', 'arranged', 'noted', 'set aside')),
  body text not null default '' check (length(body) <= 2000),
  -- Until when it is set aside.
  until_on date,
  at timestamptz not null,
  by_id uuid not null references person,
  removed_at timestamptz,
  check ((kind = 'set aside') = (until_on is not null))
);
create index word_note_course on word_note (course_id, enrolment_id);
create index word_note_enrolment on word_note (enrolment_id);
create index word_note_by on word_note (by_id);
grant select, insert, update, delete on word_rule, word_note to rosemary_app;
