-- The course's own files in folders, items that are a file or a link, earlier versions of pages, templates of pages, embeds.

create table file_folder (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  parent_id uuid references file_folder,
  title text not null check (length(title) between 1 and 160),
  opens_at timestamptz,
  closes_at timestamptz,
  removed_at timestamptz,
  version int not null default 1
);
create index file_folder_course on file_folder (course_id) where removed_at is null;

-- A file of the course stands in its store; what students hand in does not.
alter table file add column is_kept boolean not null default false;
alter table file add column folder_id uuid references file_folder;
alter table file add column opens_at timestamptz;
alter table file add column closes_at timestamptz;
alter table file add column removed_at timestamptz;
alter table file add column version int not null default 1;
update file f set is_kept = true where exists (select 1 from item_file i where i.file_id = f.id);

-- What a file held before it was replaced where it stands.
create table file_past (
  id bigint generated always as identity primary key,
  file_id uuid not null references file,
  sha256 bytea not null references file_blob,
  name text not null,
  replaced_at timestamptz not null,
  replaced_by uuid not null references person
);
create index file_past_file on file_past (file_id);

create table item_link (
  item_id uuid primary key references item,
  address text not null default '' check (length(address) <= 2000),
  note text not null default '' check (length(note) <= 2000),
  version int not null default 1
);

-- An item that is one file of the course.
create table item_shown_file (
  item_id uuid primary key references item,
  file_id uuid references file,
  note text not null default '' check (length(note) <= 2000),
  version int not null default 1
);

-- Each version of a page as it was saved; what one person types within some minutes is one version.
create table page_version (
  item_id uuid not null references item,
  number int not null,
  document jsonb not null,
  saved_at timestamptz not null,
  saved_by uuid not null references person,
  primary key (item_id, number)
);

create table page_template (
  id uuid primary key default gen_random_uuid(),
  owner_id uuid not null references person,
  title text not null check (length(title) between 1 and 160),
  document jsonb not null,
  created_at timestamptz not null,
  removed_at timestamptz
);
create index page_template_owner on page_template (owner_id) where removed_at is null;

-- The sites whose pages may be shown inside a page of a course.
alter table school add column embed_hosts text[] not null default '{}';

grant select, insert, update, delete on file_folder, item_link, item_shown_file, page_version, page_template to rosemary_app;
grant select, insert on file_past to rosemary_app;
grant usage on all sequences in schema public to rosemary_app;
