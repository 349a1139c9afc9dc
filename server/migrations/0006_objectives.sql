-- What students should be able to do, as a tree with codes, and what is aligned to it.

create table objective (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  parent_id uuid references objective,
  code text not null default '' check (length(code) <= 60),
  statement text not null check (length(statement) between 1 and 2000),
  position int not null default 0,
  -- The identifier it has in the framework it was brought in from.
  source text,
  removed_at timestamptz,
  version int not null default 1
);
create index objective_course on objective (course_id) where removed_at is null;
create unique index objective_code on objective (course_id, lower(code)) where removed_at is null and code <> '';

create table objective_use (
  objective_id uuid not null references objective,
  item_id uuid references item,
  criterion_id uuid references rubric_criterion,
  check (num_nonnulls(item_id, criterion_id) = 1)
);
create unique index objective_use_item on objective_use (objective_id, item_id) where item_id is not null;
create unique index objective_use_criterion on objective_use (objective_id, criterion_id) where criterion_id is not null;

grant select, insert, update, delete on objective, objective_use to rosemary_app;
