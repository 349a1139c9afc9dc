-- What was answered to a write that names the version it saw: whoever sends the very same again, because the answer was lost on the way, is
-- answered the same and not told that somebody else changed it meanwhile. Kept for a day.
create table kept_answer (
  person_id uuid not null references person,
  digest bytea not null,
  answer jsonb not null,
  at timestamptz not null,
  primary key (person_id, digest)
);
create index on kept_answer (at);
grant select, insert, update, delete on kept_answer to rosemary_app;
