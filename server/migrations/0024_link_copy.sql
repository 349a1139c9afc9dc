-- Work handed in as a link: what stood there when it came in, or why nothing could be read.
create table link_copy (
  attempt_id uuid primary key references attempt on delete cascade,
  state text not null check (state in ('kept', 'refused', 'away', 'inside', 'large')),
  -- How the address answered, in words.
  said text not null,
  -- Where it led in the end.
  address text not null,
  tries int not null default 1,
  tried_at timestamptz not null,
  title text not null default '',
  document jsonb,
  file_id uuid references file
);
create index attempt_link on attempt (id) where link <> '' and lead_id is null;
grant select, insert, update, delete on link_copy to rosemary_app;
