-- Wrong tries at a secret, by who tried at what: the wait before the next one grows. What it is stands here only as a hash.
create table wrong_try (
  what bytea primary key,
  many int not null,
  last_at timestamptz not null,
  wait_until timestamptz
);
create index wrong_try_last on wrong_try (last_at);
grant select, insert, update, delete on wrong_try to rosemary_app;

-- An account is never locked for what others type.
alter table person drop column failed_sign_ins, drop column locked_until;

-- Somebody's sessions are listed and ended.
create index session_person on session ((sess ->> 'personId'));
