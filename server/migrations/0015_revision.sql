-- A marker asks for the work once more, by a new date. Taken back it stays, ended.
create table revision (
  id uuid primary key default gen_random_uuid(),
  submission_id uuid not null references submission,
  -- The attempt it is about; a later one answers it.
  attempt_number int not null,
  words text not null check (length(words) between 1 and 4000),
  due_at timestamptz not null,
  asked_by uuid not null references person,
  asked_at timestamptz not null,
  ended_at timestamptz
);
create index revision_submission on revision (submission_id) where ended_at is null;
-- What the student says they have done about a note.
alter table margin_note add column answered_at timestamptz;
-- What a student and those who mark say to each other about one work.
create table work_word (
  id uuid primary key,
  submission_id uuid not null references submission,
  author_id uuid not null references person,
  is_staff boolean not null,
  body text not null check (length(body) between 1 and 8000),
  at timestamptz not null
);
create index work_word_submission on work_word (submission_id, at);
create table work_word_read (
  submission_id uuid not null references submission,
  person_id uuid not null references person,
  read_at timestamptz not null,
  primary key (submission_id, person_id)
);
grant select, insert, update, delete on revision, work_word, work_word_read to rosemary_app;
