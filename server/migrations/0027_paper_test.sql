-- Quizzes taken on paper: what is printed, which sheet is whose, the pages that were scanned and what was read from them.
alter table quiz_attempt drop constraint quiz_attempt_handed_in_how_check;
alter table quiz_attempt add constraint quiz_attempt_handed_in_how_check check (handed_in_how in ('student', 'time', 'instructor', 'paper'));
alter table quiz add column taken text not null default 'screen' check (taken in ('screen', 'paper', 'both'));

create table paper_test (
  item_id uuid primary key references quiz,
  columns smallint not null default 3 check (columns between 1 and 4),
  spacing text not null default 'roomy' check (spacing in ('roomy', 'tight')),
  alternates boolean not null default true,
  -- How many versions of the question paper there are.
  forms smallint not null default 1 check (forms between 1 and 4),
  -- Stands in the strip of every sheet, so that a sheet of another test is noticed.
  number smallint not null check (number between 0 and 255),
  printed_at timestamptz,
  version int not null default 1
);
-- The papers as they were printed: their questions with version and order never change after.
create table paper_form (
  item_id uuid not null references paper_test,
  form smallint not null check (form between 1 and 4),
  seed text not null,
  paper jsonb not null,
  primary key (item_id, form)
);
create table paper_sheet (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references paper_test,
  number int not null check (number between 1 and 16383),
  form smallint not null,
  -- Nobody’s yet on a spare sheet.
  enrolment_id uuid references enrolment,
  -- The answers that became a result; null as long as there is none of it, or it was taken back.
  brought_in jsonb,
  unique (item_id, number)
);
create unique index paper_sheet_whose on paper_sheet (item_id, enrolment_id) where enrolment_id is not null;
create table paper_scan (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references paper_test,
  file_id uuid not null references file,
  sheet_id uuid references paper_sheet,
  page smallint,
  -- Each row with its marks and doubt; and the corners of the sheet in the picture, as shares of its width and height.
  reading jsonb,
  corners jsonb,
  -- Why nothing could be read; empty where it could.
  problem text not null default '',
  scanned_by uuid not null references person,
  scanned_at timestamptz not null,
  left_out_at timestamptz
);
create index paper_scan_item on paper_scan (item_id);
create index paper_scan_sheet on paper_scan (sheet_id) where sheet_id is not null;
-- What a person says of a row: it goes before what was read.
create table paper_answer (
  sheet_id uuid not null references paper_sheet,
  question int not null check (question >= 0),
  picked int[] not null,
  said_by uuid not null references person,
  said_at timestamptz not null,
  primary key (sheet_id, question)
);
grant select, insert, update, delete on paper_test, paper_form, paper_sheet, paper_scan, paper_answer to rosemary_app;
