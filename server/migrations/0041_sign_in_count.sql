-- How many sign-ins were tried within a minute, from one place and at one account, whichever server process they reached. What it is stands
-- here only as a hash. Nothing of it is worth keeping over a crash of the database, so it is not written twice.
create unlogged table sign_in_count (
  what bytea primary key,
  many int not null,
  ends_at timestamptz not null
);
create index sign_in_count_end on sign_in_count (ends_at);
grant select, insert, update, delete on sign_in_count to rosemary_app;
