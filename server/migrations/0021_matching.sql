-- Text matching: evidence of what stands elsewhere, never a verdict.
create table match_setting (
  item_id uuid primary key references item,
  looks_at_class boolean not null default true,
  looks_at_earlier boolean not null default true,
  looks_at_collection boolean not null default false,
  leaves_quotations boolean not null default true,
  shows_students boolean not null default false,
  joins_collection boolean not null default false,
  version int not null default 1
);
create table match_run (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references item,
  asked_by uuid not null references person,
  asked_at timestamptz not null,
  ended_at timestamptz,
  works int not null default 0,
  -- What it could not look at, in words.
  said text not null default ''
);
create index match_run_item on match_run (item_id, asked_at desc);
create index match_run_waits on match_run (asked_at) where ended_at is null;
create table match_result (
  run_id uuid not null references match_run on delete cascade,
  attempt_id uuid not null references attempt on delete cascade,
  counted int not null,
  matched int not null,
  quoted int not null,
  of_task int not null,
  primary key (run_id, attempt_id)
);
create index match_result_attempt on match_result (attempt_id);
create table match_source (
  run_id uuid not null references match_run on delete cascade,
  attempt_id uuid not null references attempt on delete cascade,
  position int not null,
  kind text not null check (kind in ('class', 'earlier', 'collection')),
  source_attempt_id uuid references attempt on delete cascade,
  -- Of the collection: what it is called there.
  document_id text not null default '',
  title text not null default '',
  words int not null,
  -- Runs as places in the two texts: [from, to, source from, source to].
  runs jsonb not null,
  primary key (run_id, attempt_id, position)
);
create index match_source_source on match_source (source_attempt_id);
grant select, insert, update, delete on match_setting, match_run, match_result, match_source to rosemary_app;
