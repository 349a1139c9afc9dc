-- What a marker says often, kept to be said again.
create table remark (
  id uuid primary key,
  owner_id uuid not null references person,
  body text not null check (length(body) between 1 and 4000),
  -- The criterion it belongs to, by its title, so that it serves wherever that is judged; empty serves everywhere.
  criterion text not null default '' check (length(criterion) <= 120),
  -- A few letters it is called by.
  shortcut text not null default '' check (shortcut ~ '^[a-z0-9]{0,6}$'),
  created_at timestamptz not null,
  removed_at timestamptz,
  version int not null default 1
);
create unique index remark_shortcut on remark (owner_id, shortcut) where removed_at is null and shortcut <> '';
alter table margin_note add column remark_id uuid references remark;
create index margin_note_remark on margin_note (remark_id) where remark_id is not null;
grant select, insert, update, delete on remark to rosemary_app;
