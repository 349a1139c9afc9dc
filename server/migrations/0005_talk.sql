-- Announcements, discussions, notices with mail, and the calendar feed.

create table announcement (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  author_id uuid not null references person,
  title text not null check (length(title) between 1 and 160),
  document jsonb not null,
  publish_at timestamptz not null,
  -- Whether those it is for are told; what was told is not told twice.
  tells boolean not null default true,
  told_at timestamptz,
  removed_at timestamptz,
  created_at timestamptz not null,
  version int not null default 1
);
create index announcement_course on announcement (course_id, publish_at) where removed_at is null;
create index announcement_waiting on announcement (publish_at) where told_at is null and removed_at is null;

-- The sections an announcement is for; none named is everyone.
create table announcement_section (
  announcement_id uuid not null references announcement,
  section_id uuid not null references section,
  primary key (announcement_id, section_id)
);

create table announcement_read (
  announcement_id uuid not null references announcement,
  person_id uuid not null references person,
  at timestamptz not null,
  primary key (announcement_id, person_id)
);

create table discussion (
  item_id uuid primary key references item,
  document jsonb not null,
  -- Whoever has written nothing yet sees nothing of the others.
  is_post_first boolean not null default false,
  is_closed boolean not null default false,
  version int not null default 1
);
insert into discussion (item_id, document) select id, '{"type":"doc","content":[{"type":"paragraph"}]}' from item where kind = 'discussion';

-- A thread is a post that answers none.
create table post (
  id uuid primary key,
  item_id uuid not null references item,
  thread_id uuid references post,
  author_id uuid not null references person,
  enrolment_id uuid not null references enrolment,
  title text not null default '' check (length(title) <= 160),
  document jsonb not null,
  created_at timestamptz not null,
  edited_at timestamptz,
  removed_at timestamptz,
  hidden_at timestamptz,
  is_pinned boolean not null default false,
  is_closed boolean not null default false,
  version int not null default 1,
  check ((thread_id is null) = (title <> ''))
);
create index post_item on post (item_id, created_at);
create index post_enrolment on post (enrolment_id, item_id) where removed_at is null;

-- What somebody has read of a discussion; their own posts are read by writing them.
create table post_read (
  post_id uuid not null references post,
  person_id uuid not null references person,
  primary key (person_id, post_id)
);

create table notice (
  id bigint generated always as identity primary key,
  person_id uuid not null references person,
  course_id uuid not null references course,
  kind text not null check (kind in ('announcement', 'reply', 'returned')),
  words text not null,
  path text not null,
  at timestamptz not null,
  seen_at timestamptz
);
create index notice_person on notice (person_id, id desc);

-- How one is told of each kind of thing; nothing said is in the application, and by mail for announcements.
create table notice_choice (
  person_id uuid not null references person,
  kind text not null check (kind in ('announcement', 'reply', 'returned')),
  is_shown boolean not null,
  is_mailed boolean not null,
  primary key (person_id, kind)
);

-- What would be mailed: a stand-in for the post, which anyone can read in the demo.
create table outbox (
  id bigint generated always as identity primary key,
  person_id uuid not null references person,
  address text not null,
  subject text not null,
  body text not null,
  at timestamptz not null
);

-- The secret address under which a calendar program reads someone's dates.
create table calendar_feed (
  person_id uuid primary key references person,
  secret uuid not null unique default gen_random_uuid(),
  made_at timestamptz not null
);

grant select, insert, update, delete on announcement, announcement_section, announcement_read, discussion, post, post_read, notice, notice_choice, outbox, calendar_feed to rosemary_app;
grant usage on all sequences in schema public to rosemary_app;
