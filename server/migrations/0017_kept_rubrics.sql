-- Rubrics kept to be used again: one's own, and those shared with everyone who teaches here.
create table kept_rubric (
  id uuid primary key,
  owner_id uuid not null references person,
  title text not null check (length(title) between 1 and 120),
  criteria jsonb not null,
  is_shared boolean not null default false,
  created_at timestamptz not null,
  removed_at timestamptz
);
create index kept_rubric_owner on kept_rubric (owner_id) where removed_at is null;
grant select, insert, update, delete on kept_rubric to rosemary_app;
