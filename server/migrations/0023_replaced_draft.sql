-- What a student had written before their group's draft took its place: theirs to read, and to take words from.
create table replaced_draft (
  id bigint generated always as identity primary key,
  submission_id uuid not null references submission,
  draft jsonb not null,
  saved_at timestamptz
);
create index replaced_draft_submission on replaced_draft (submission_id);
grant select, insert on replaced_draft to rosemary_app;
