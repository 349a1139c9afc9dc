-- What follows when a result reaches or misses a mark: once for each student, kept, and taken back if wished.
create table follow_rule (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references quiz,
  meets text not null check (meets in ('reaches', 'misses')),
  points numeric(9, 3) not null check (points >= 0),
  action text not null check (action in ('group', 'open', 'message')),
  group_id uuid references course_group on delete cascade,
  opens_item_id uuid references item,
  title text not null default '' check (length(title) <= 160),
  body text not null default '' check (length(body) <= 8000),
  made_by uuid not null references person,
  made_at timestamptz not null,
  stopped_at timestamptz,
  check ((action = 'group') = (group_id is not null)),
  check ((action = 'open') = (opens_item_id is not null)),
  check ((action = 'message') = (title <> ''))
);
create index follow_rule_item on follow_rule (item_id);
create table follow_done (
  rule_id uuid not null references follow_rule on delete cascade,
  enrolment_id uuid not null references enrolment,
  at timestamptz not null,
  -- What is needed to take it back: the group before, the opening, the conversation.
  made jsonb not null default '{}',
  -- Why it could not be done; empty where it was.
  problem text not null default '',
  -- Had the result before the rule was made, which is for results that come.
  is_before boolean not null default false,
  undone_at timestamptz,
  undone_by uuid references person,
  primary key (rule_id, enrolment_id)
);
grant select, insert, update, delete on follow_rule, follow_done to rosemary_app;
