-- Whoever is said to teach may make courses before they have one.
alter table person add column teaches boolean not null default false;

-- That somebody who teaches has looked at the course as a student does: the last of the first steps.
alter table course add column seen_as_student_at timestamptz;

-- An administrator who looks into a course: until when, and from when. It is read, and nothing in it is changed.
create table course_look (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course on delete cascade,
  person_id uuid not null references person on delete cascade,
  began_at timestamptz not null,
  ends_at timestamptz not null check (ends_at >= began_at)
);
create index course_look_course on course_look (course_id);
create index course_look_person on course_look (person_id, ends_at);
grant select, insert, update, delete on course_look to rosemary_app;
