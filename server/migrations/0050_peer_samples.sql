-- What surrounds a peer review: sample works to practise on, leave to show a work, works that are shown, a revision after the reviews,
-- and rules of being done that know of reviews.

-- Which text of an item names a file: each text keeps its own, so that saving one takes no file from another.
alter table item_file add column part text not null default 'text' check (part in ('text', 'prompt', 'sample'));
alter table item_file drop constraint item_file_pkey;
alter table item_file add primary key (item_id, file_id, part);
-- Prompts that were saved until now put their files among those of the task.
insert into item_file (item_id, file_id, part)
  select p.item_id, f.id, 'prompt' from peer_setting p join item i on i.id = p.item_id join file f on f.course_id = i.course_id
  where position(f.id::text in p.prompt::text) > 0;
insert into item_file (item_id, file_id, part)
  select a.item_id, f.id, 'text' from assignment a join peer_setting p on p.item_id = a.item_id join item i on i.id = a.item_id join file f on f.course_id = i.course_id
  where position(f.id::text in a.instructions::text) > 0 on conflict do nothing;

-- A work to practise on, with the teacher’s own assessment of it by the form of the reviews.
create table peer_sample (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references item,
  title text not null check (length(title) between 1 and 200),
  document jsonb not null,
  -- The work it was taken from, and how leave was given: by its authors here, or as the teacher says.
  taken_from uuid references submission,
  leave text check (leave in ('authors', 'teacher')),
  choices jsonb not null default '{}',
  given jsonb not null default '{}',
  comments jsonb not null default '{}',
  words text not null default '' check (length(words) <= 20000),
  made_at timestamptz not null,
  removed_at timestamptz,
  version int not null default 1,
  check ((taken_from is null) = (leave is null))
);
create index peer_sample_item on peer_sample (item_id);
create index peer_sample_taken_from on peer_sample (taken_from);

-- What a student made of a sample work; once it was compared with the teacher’s it stays.
create table sample_review (
  id uuid primary key default gen_random_uuid(),
  sample_id uuid not null references peer_sample,
  enrolment_id uuid not null references enrolment,
  choices jsonb not null default '{}',
  given jsonb not null default '{}',
  comments jsonb not null default '{}',
  words text not null default '' check (length(words) <= 20000),
  saved_at timestamptz not null,
  handed_in_at timestamptz,
  form jsonb,
  version int not null default 1,
  unique (sample_id, enrolment_id),
  check ((handed_in_at is null) = (form is null))
);
create index sample_review_enrolment on sample_review (enrolment_id);

-- Whether an author lets a work be shown: to the own class, and to later classes without a name.
create table work_leave (
  submission_id uuid primary key references submission on delete cascade,
  to_class text not null check (to_class in ('no', 'without name', 'with name')),
  to_later boolean not null,
  said_at timestamptz not null,
  version int not null default 1
);

-- A work that the teacher shows to the class, with a word on it.
create table shown_work (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references item,
  submission_id uuid not null references submission on delete cascade,
  is_named boolean not null,
  leave text not null check (leave in ('authors', 'teacher')),
  words text not null default '' check (length(words) <= 4000),
  shown_at timestamptz not null,
  shown_by uuid not null references person,
  hidden_at timestamptz,
  version int not null default 1,
  unique (item_id, submission_id)
);
create index shown_work_submission on shown_work (submission_id);
create index shown_work_shown_by on shown_work (shown_by);

-- How each result came about when it was given, so that a student reads the working of the very number in the ledger.
create table peer_result (
  item_id uuid not null references item,
  enrolment_id uuid not null references enrolment,
  role text not null check (role in ('work', 'reviewing')),
  working jsonb not null,
  primary key (item_id, enrolment_id, role)
);
create index peer_result_enrolment on peer_result (enrolment_id);

-- Until when a work can be revised after its reviews are out; null where it is not. What the teacher says to everybody at the end.
alter table peer_setting add column revision_due_at timestamptz;
alter table peer_setting add column closing jsonb;
alter table peer_setting add column closing_version int not null default 1;

-- A revision that follows the reviews of an item, not the ask of one teacher on one work.
alter table revision add column is_of_reviews boolean not null default false;

-- What an author did about a point of a review: a note at a place, or the words on a criterion.
alter table review_note add column answered_at timestamptz;
alter table review add column answered jsonb not null default '{}';

alter table item drop constraint item_done_rule_check;
alter table item add constraint item_done_rule_check
  check (done_rule in ('opened', 'ticked', 'handed in', 'marked', 'score', 'reviewed', 'handed in and reviewed', 'handed in or reviewed', 'never'));

grant select, insert, update, delete on peer_result, peer_sample, sample_review, work_leave, shown_work to rosemary_app;
