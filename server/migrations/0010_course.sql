-- A course that is counted from each student's start, its picture, and pages that stand outside the units.

alter table course add column pacing text not null default 'term' check (pacing in ('term', 'self'));
alter table course add column picture_file_id uuid references file;
alter table course add column picture_alt text not null default '' check (length(picture_alt) <= 400);

-- The standing pages of a course are the items of one unit apart, before all others; the first of them opens the course.
alter table unit add column is_standing boolean not null default false;
create unique index unit_standing on unit (course_id) where is_standing and removed_at is null;
