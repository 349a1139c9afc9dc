-- How a result is read, by its student and beside it by staff; a late policy of a category.
alter table item
  add column student_reads text not null default 'points' check (student_reads in ('points', 'percent', 'letter')),
  add column staff_reads text not null default 'points' check (staff_reads in ('points', 'percent', 'letter'));
create table category_late (
  category_id uuid primary key references category on delete cascade,
  rate_percent numeric(6, 3) not null check (rate_percent between 0 and 100),
  step_minutes int not null check (step_minutes between 1 and 10080),
  base text not null check (base in ('earned', 'possible')),
  cap_percent numeric(6, 3) not null check (cap_percent between 0 and 100),
  floor_percent numeric(6, 3) not null check (floor_percent between 0 and 100),
  grace_minutes int not null check (grace_minutes between 0 and 10080)
);
grant select, insert, update, delete on category_late to rosemary_app;
