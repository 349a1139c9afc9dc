-- The school's own identifiers, so that its lists meet what came with them before; and invitations to set a first password.

alter table person add column source text unique check (length(source) between 1 and 255);
alter table term add column source text unique check (length(source) between 1 and 255);
alter table course add column source text unique check (length(source) between 1 and 520);
alter table section add column source text unique check (length(source) between 1 and 255);

-- What a mail carries is kept as its hash alone; it opens once, and not for ever.
create table invitation (
  token_hash bytea primary key,
  person_id uuid not null references person,
  expires_at timestamptz not null,
  used_at timestamptz
);
create index invitation_person on invitation (person_id);
grant select, insert, update, delete on invitation to rosemary_app;
