-- Other ways to judge by criteria than levels: a tick, points within a range, a count of errors, words alone.
alter table rubric_criterion add column form text not null default 'levels' check (form in ('levels', 'check', 'range', 'count', 'comment'));
alter table rubric_level
  -- A level that is a range goes from here up to its points; a level of a count is reached up to this many.
  add column least numeric(9, 3) check (least between 0 and points),
  add column up_to int check (up_to between 0 and 10000);
alter table mark
  -- What was typed at a criterion: points within a range in thousandths, or how many errors; and words on a criterion.
  add column given jsonb not null default '{}',
  add column comments jsonb not null default '{}';
-- Files and voice that go with the overall feedback.
create table feedback_file (
  submission_id uuid not null references submission,
  file_id uuid not null references file,
  position int not null,
  primary key (submission_id, file_id)
);
create index feedback_file_file on feedback_file (file_id);
alter table margin_note
  -- Other words proposed for those the note is on; empty strikes them. The work itself never changes.
  add column replacement text check (length(replacement) <= 2000),
  add column points numeric(9, 3);
alter table remark add column points numeric(9, 3);
grant select, insert, update, delete on feedback_file to rosemary_app;
