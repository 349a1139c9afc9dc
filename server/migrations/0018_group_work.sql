-- Work that a group hands in together; which of several attempts counts; a late policy of an item's own; statistics shown to students.
alter table assignment
  add column group_set_id uuid references group_set,
  add column counted text not null default 'latest' check (counted in ('latest', 'best', 'first', 'mean'));
-- The attempt of whoever handed in for the group: notes stand there, once for all.
alter table attempt add column lead_id uuid references attempt;
create index attempt_lead on attempt (lead_id) where lead_id is not null;
-- One mark for all of a group, more or less for one of them with a reason: {enrolment: {points, reason}}.
alter table mark add column adjustments jsonb not null default '{}';
-- What each attempt was given when its mark was finished.
create table attempt_mark (
  attempt_id uuid primary key references attempt,
  raw numeric(9, 3) not null check (raw >= 0),
  choices jsonb not null default '{}',
  marker_id uuid not null references person,
  finished_at timestamptz not null
);
create table item_late (
  item_id uuid primary key references item,
  rate_percent numeric(6, 3) not null check (rate_percent between 0 and 100),
  step_minutes int not null check (step_minutes between 1 and 10080),
  base text not null check (base in ('earned', 'possible')),
  cap_percent numeric(6, 3) not null check (cap_percent between 0 and 100),
  floor_percent numeric(6, 3) not null check (floor_percent between 0 and 100),
  grace_minutes int not null check (grace_minutes between 0 and 10080)
);
alter table item
  add column shows_statistics boolean not null default false;
-- Students put themselves into the groups of a set until a time; null is never.
alter table group_set
  add column sign_up_until timestamptz,
  add column most_members int check (most_members between 1 and 100);
grant select, insert, update, delete on attempt_mark, item_late to rosemary_app;
-- A student may take back what was handed in, until it is due and while nobody has begun to mark it. What it was is kept here.
alter table assignment add column allows_withdrawal boolean not null default false;
create table withdrawn_attempt (
  id bigint generated always as identity primary key,
  submission_id uuid not null references submission,
  attempt jsonb not null,
  by_id uuid not null references person,
  at timestamptz not null
);
-- A file on its way, in parts, so that a lost connection goes on where it stopped.
create table upload (
  id uuid primary key,
  person_id uuid not null references person,
  item_id uuid not null references item,
  name text not null check (length(name) between 1 and 400),
  size bigint not null check (size > 0),
  received bigint not null default 0,
  begun_at timestamptz not null
);
create index upload_person on upload (person_id);
create table upload_part (
  upload_id uuid not null references upload on delete cascade,
  starts_at bigint not null,
  bytes bytea not null,
  primary key (upload_id, starts_at)
);
alter table upload_part alter column bytes set storage external;
grant select, insert, update, delete on withdrawn_attempt, upload, upload_part to rosemary_app;
