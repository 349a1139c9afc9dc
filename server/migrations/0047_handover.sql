-- Final grades and their handover to the registrar.

-- A student who listens and is not graded, by the rules of the school.
alter table enrolment add column is_auditing boolean not null default false;

-- What the school says of final grades, and what the registrar said last of what he takes.
create table handover_setting (
  is_only boolean primary key default true check (is_only),
  -- The registrar's letters for students who withdrew or only listened; null leaves them out.
  withdrawn_letter text check (length(withdrawn_letter) between 1 and 12),
  auditing_letter text check (length(auditing_letter) between 1 and 12),
  -- A grade that is changed after the registrar has it waits until an administrator approves it.
  needs_approval boolean not null default false,
  -- The columns of the registrar’s form, in their order: what stands in each, and its head.
  form jsonb not null default '[]',
  rules jsonb,
  window_opens_at timestamptz,
  window_closes_at timestamptz,
  -- When he was last to be asked, when he answered, and what was wrong where he did not.
  wanted_at timestamptz,
  -- The courses in which somebody waits for his answer.
  wanted_for uuid[] not null default '{}',
  tried_at timestamptz,
  asked_at timestamptz,
  fault text not null default '',
  version int not null default 1
);
insert into handover_setting default values;
grant select, update on handover_setting to rosemary_app;

-- Which letter of the registrar stands for each letter of a scheme; a scheme is known by its letters.
create table letter_table (
  labels text[] primary key,
  letters jsonb not null,
  version int not null default 1
);
grant select, insert, update, delete on letter_table to rosemary_app;

-- What students of a course see of their final grades, and whether its grades are closed.
create table final_setting (
  course_id uuid primary key references course,
  shows text not null default 'none' check (shows in ('none', 'calculated', 'agreed')),
  shown_from timestamptz,
  closed_at timestamptz,
  version int not null default 1
);
grant select, insert, update on final_setting to rosemary_app;

-- What an instructor stood by, step by step; the last of a student holds. Never changed.
create table agreed_grade (
  id bigint generated always as identity primary key,
  course_id uuid not null references course,
  enrolment_id uuid not null references enrolment,
  section_id uuid references section,
  at timestamptz not null,
  actor_id uuid not null references person,
  kind text not null check (kind in ('agreed', 'taken back')),
  -- The registrar's letter that was agreed, and the letter and number of the course it stands for.
  sent_letter text not null,
  letter text,
  percent text,
  calculated_letter text,
  calculated_percent text,
  is_override boolean not null,
  reason text not null default '',
  last_day date,
  last_day_from text not null default '',
  expires_on date,
  lapses_to text
);
create index on agreed_grade (enrolment_id, id desc);
create index on agreed_grade (course_id);
create index on agreed_grade (actor_id);
create index on agreed_grade (section_id);
grant select, insert on agreed_grade to rosemary_app;

-- One grade on its way. Its identifier is the key by which the registrar knows the submission.
create table handover_row (
  id uuid primary key default gen_random_uuid(),
  -- In the order in which they were put under way.
  place bigint generated always as identity,
  course_id uuid not null references course,
  section_id uuid not null references section,
  enrolment_id uuid not null references enrolment,
  agreed_id bigint not null references agreed_grade,
  corrects_id uuid references handover_row,
  reason text not null default '',
  state text not null check (state in ('awaits approval', 'waiting', 'sending', 'accepted', 'refused', 'unknown', 'by hand', 'taken back')),
  receipt text,
  code text,
  said text not null default '',
  tries int not null default 0,
  next_try_at timestamptz,
  asked_by uuid not null references person,
  asked_at timestamptz not null,
  settled_at timestamptz
);
-- One grade of a student is under way at a time, so that it is never sent twice.
create unique index handover_row_under_way on handover_row (enrolment_id) where state in ('awaits approval', 'waiting', 'sending', 'unknown');
create index on handover_row (course_id);
create index on handover_row (section_id);
create index on handover_row (enrolment_id);
create index on handover_row (agreed_id);
create index on handover_row (corrects_id);
create index on handover_row (asked_by);
create index on handover_row (next_try_at) where state in ('waiting', 'sending', 'unknown');
grant select, insert, update on handover_row to rosemary_app;

-- What happened to it, for ever.
create table handover_event (
  id bigint generated always as identity primary key,
  row_id uuid not null references handover_row,
  at timestamptz not null,
  actor_id uuid references person,
  state text not null,
  said text not null default ''
);
create index on handover_event (row_id);
create index on handover_event (actor_id);
grant select, insert on handover_event to rosemary_app;

-- What was sent of a section, with the working as it stood, once all of it is settled. Never changed.
create table handover_record (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  section_id uuid not null references section,
  at timestamptz not null,
  actor_id uuid not null references person,
  content jsonb not null,
  sha256 bytea not null
);
create index on handover_record (course_id);
create index on handover_record (section_id);
create index on handover_record (actor_id);
grant select, insert on handover_record to rosemary_app;

-- What the registrar holds of a section, as he told it last.
create table handover_read (
  section_id uuid primary key references section,
  wanted_at timestamptz not null,
  read_at timestamptz,
  held jsonb not null default '[]',
  -- The students of his list; null where he has not told it.
  listed jsonb,
  fault text not null default ''
);
grant select, insert, update on handover_read to rosemary_app;

create function keep_as_written() returns trigger language plpgsql as $$
begin
  raise exception 'what was agreed and sent is never changed (%)', tg_table_name;
end $$;
create trigger keep_as_written before update or delete on agreed_grade for each row execute function keep_as_written();
create trigger keep_as_written before update or delete on handover_event for each row execute function keep_as_written();
create trigger keep_as_written before update or delete on handover_record for each row execute function keep_as_written();
