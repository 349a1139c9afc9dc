-- How much a course may hold, and how much one person may add to a course as their own work: set by the administrator.
alter table school
  add column most_course_mb int not null default 20480 check (most_course_mb between 100 and 10000000),
  add column most_person_mb int not null default 2048 check (most_person_mb between 10 and 1000000);

-- What is cleared away each day, and what that gave.
create table tidied (
  what text primary key,
  at timestamptz not null,
  many bigint not null
);
grant select, insert, update on tidied to rosemary_app;
grant delete on file, file_blob, file_chunk to rosemary_app;
create index on upload (begun_at);
