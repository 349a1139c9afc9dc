-- Which courses use a bank is written down, given when a course is made and taken back by whoever keeps the bank; it does not follow from
-- a code that two courses share. `subject` stays the name of the tree of folders that belong together.
create table bank_course (
  folder_id uuid not null references bank_folder,
  course_id uuid not null references course,
  given_by uuid references person,
  given_at timestamptz not null default now(),
  removed_at timestamptz,
  primary key (folder_id, course_id)
);
create index on bank_course (course_id);
create index on bank_course (given_by);
grant select, insert, update on bank_course to rosemary_app;

drop index bank_folder_subject;
insert into bank_folder (title, subject)
select distinct c.code, c.code from course c
where not exists (select 1 from bank_folder f where f.subject = c.code and f.parent_id is null);
insert into bank_course (folder_id, course_id, given_at)
select f.id, c.id, c.created_at from course c join bank_folder f on f.subject = c.code and f.parent_id is null;
