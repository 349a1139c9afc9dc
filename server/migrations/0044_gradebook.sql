-- What is pasted, filled or imported at once is one act: its events carry the same identifier, by which it is taken back as one.
alter table grade_event add column act uuid;
create index grade_event_act on grade_event (act) where act is not null;
alter table grade_event drop constraint grade_event_source_check;
alter table grade_event add constraint grade_event_source_check
  check (source in ('marking', 'gradebook', 'demo', 'job', 'quiz', 'paste', 'fill', 'import'));
-- The gradebook as of a day goes through the ledger by time.
create index grade_event_at on grade_event (at);

-- Words on a cell: a memo that only staff read, and a comment for the student.
create table cell_words (
  column_id uuid not null references grade_column,
  enrolment_id uuid not null references enrolment,
  memo text not null default '' check (length(memo) <= 2000),
  comment text not null default '' check (length(comment) <= 2000),
  version int not null default 1,
  changed_by uuid not null references person,
  changed_at timestamptz not null,
  primary key (column_id, enrolment_id)
);
create index cell_words_enrolment on cell_words (enrolment_id);
create index cell_words_person on cell_words (changed_by);

-- A curve on a column. The results that were given stay as they are: it is worked out with the totals.
create table column_curve (
  column_id uuid primary key references grade_column on delete cascade,
  kind text not null check (kind in ('add', 'scale', 'root', 'mean')),
  -- Points added, the points that become full marks, or the points that the mean becomes; none for the square root.
  amount numeric(9, 3) check (amount between 0 and 10000),
  is_capped boolean not null default true,
  -- What the mean needed when the curve was set, as a fraction of thousandths, and from how many marks: a later mark moves nobody by it.
  shift_top bigint,
  shift_bottom bigint check (shift_bottom > 0),
  shift_marks int check (shift_marks > 0),
  check ((kind = 'root') = (amount is null)),
  check ((kind = 'mean') = (shift_top is not null and shift_bottom is not null and shift_marks is not null))
);

-- A course of one category keeps the rules that a category has.
alter table grading_policy
  add column whole_keep_best int not null default 0 check (whole_keep_best between 0 and 50),
  add column whole_drop_highest int not null default 0 check (whole_drop_highest between 0 and 50),
  add column whole_is_capped boolean not null default false,
  -- From which total a course is passed; none where nothing is said of it.
  add column pass_percent numeric(7, 3) check (pass_percent between 0 and 1000);

-- What a letter stands for where it is given instead of a number; none leaves it to the middle of its range.
alter table scheme_level add column value_percent numeric(7, 3) check (value_percent between 0 and 1000);

-- Why a change of a cell was made, where it was said after the change: the ledger itself is never written again.
create table event_reason (
  event_id bigint primary key references grade_event,
  reason text not null check (length(reason) <= 600)
);

grant select, insert, update, delete on cell_words, column_curve, event_reason to rosemary_app;
