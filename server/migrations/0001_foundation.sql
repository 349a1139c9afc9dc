-- People, terms, courses and their members, the Plan, files, submissions, marks, the grade ledger, visits and the audit.
create extension if not exists citext;

create table person (
  id uuid primary key default gen_random_uuid(),
  email citext not null unique check (length(email) between 3 and 200),
  given_name text not null check (length(given_name) between 1 and 80),
  family_name text not null check (length(family_name) between 1 and 80),
  password_hash text,
  is_administrator boolean not null default false,
  theme text not null default 'light' check (theme in ('light', 'dark')),
  failed_sign_ins int not null default 0,
  locked_until timestamptz,
  created_at timestamptz not null default now(),
  version int not null default 1
);

-- One row: what kind of school this is, and how far its clock stands from the real one.
create table school (
  is_only boolean primary key default true check (is_only),
  title text not null,
  is_demo boolean not null,
  clock_offset_seconds bigint not null default 0
);

create table session (
  sid text primary key,
  sess json not null,
  expire timestamptz(6) not null
);
create index session_expire on session (expire);

create table term (
  id uuid primary key default gen_random_uuid(),
  title text not null check (length(title) between 1 and 80),
  starts_on date not null,
  ends_on date not null,
  meeting_days smallint[] not null default '{1,2,3,4,5}',
  version int not null default 1,
  check (ends_on > starts_on)
);

create table term_holiday (
  id uuid primary key default gen_random_uuid(),
  term_id uuid not null references term,
  title text not null,
  starts_on date not null,
  ends_on date not null,
  check (ends_on >= starts_on)
);

create table course (
  id uuid primary key default gen_random_uuid(),
  code text not null check (code ~ '^[A-Za-z0-9][A-Za-z0-9.-]{0,19}$'),
  run text not null check (run ~ '^[A-Za-z0-9][A-Za-z0-9-]{0,19}$'),
  title text not null check (length(title) between 1 and 160),
  short_title text not null default '' check (length(short_title) <= 40),
  term_id uuid not null references term,
  time_zone text not null,
  language text not null default 'en',
  is_open boolean not null default false,
  progress_by text not null default 'items' check (progress_by in ('items', 'minutes')),
  created_at timestamptz not null default now(),
  version int not null default 1,
  unique (code, run)
);

create table section (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  title text not null check (length(title) between 1 and 80),
  meeting_days smallint[],
  position int not null default 0,
  unique (course_id, title)
);

create table enrolment (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  person_id uuid not null references person,
  role text not null check (role in ('instructor', 'assistant', 'student')),
  section_id uuid references section,
  is_of_record boolean not null default false,
  is_sample boolean not null default false,
  started_at timestamptz not null default now(),
  withdrawn_at timestamptz,
  version int not null default 1,
  unique (course_id, person_id, role),
  check (role = 'student' or not is_sample)
);
create index enrolment_person on enrolment (person_id);

-- The sections whose students an assistant marks; none named means every section.
create table assistant_section (
  enrolment_id uuid not null references enrolment,
  section_id uuid not null references section,
  primary key (enrolment_id, section_id)
);

create table arrangement (
  id uuid primary key default gen_random_uuid(),
  enrolment_id uuid not null references enrolment,
  extra_days int not null default 0 check (extra_days between 0 and 60),
  time_multiplier numeric(4, 2) not null default 1 check (time_multiplier between 1 and 4),
  extra_attempts int not null default 0 check (extra_attempts between 0 and 10),
  reason text not null default ''
);
create index arrangement_enrolment on arrangement (enrolment_id);

create table grading_period (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  title text not null,
  position int not null,
  weight_percent numeric(7, 3) not null default 0 check (weight_percent >= 0)
);

create table scheme (
  id uuid primary key default gen_random_uuid(),
  course_id uuid references course,
  title text not null
);

create table scheme_level (
  scheme_id uuid not null references scheme,
  position int not null,
  label text not null,
  cut_point numeric(7, 3) not null,
  primary key (scheme_id, position)
);

create table grading_policy (
  course_id uuid primary key references course,
  total text not null default 'weights' check (total in ('weights', 'points', 'share')),
  whole_drop_lowest int not null default 0,
  is_renormalised boolean not null default true,
  is_missing_zero boolean not null default true,
  decimals int not null default 1 check (decimals between 0 and 3),
  scheme_id uuid references scheme,
  shows_floor_and_reach boolean not null default true,
  late_rate_percent numeric(6, 3) not null default 0 check (late_rate_percent between 0 and 100),
  late_step_minutes int not null default 1440 check (late_step_minutes between 1 and 10080),
  late_base text not null default 'earned' check (late_base in ('earned', 'possible')),
  late_cap_percent numeric(6, 3) not null default 100 check (late_cap_percent between 0 and 100),
  late_floor_percent numeric(6, 3) not null default 0 check (late_floor_percent between 0 and 100),
  late_grace_minutes int not null default 0 check (late_grace_minutes between 0 and 10080),
  version int not null default 1
);

create table category (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  title text not null check (length(title) between 1 and 60),
  position int not null,
  weight_percent numeric(7, 3) not null default 0 check (weight_percent between 0 and 1000),
  method text not null default 'points' check (method in ('points', 'share')),
  drop_lowest int not null default 0 check (drop_lowest between 0 and 50),
  keep_best int not null default 0 check (keep_best between 0 and 50),
  drop_highest int not null default 0 check (drop_highest between 0 and 50),
  is_extra_credit boolean not null default false,
  is_capped boolean not null default false,
  declared_items int not null default 0 check (declared_items between 0 and 500),
  declared_points numeric(9, 3) not null default 0 check (declared_points >= 0),
  unique (course_id, title)
);

create table unit (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  title text not null check (length(title) between 1 and 160),
  position int not null,
  default_category_id uuid references category,
  removed_at timestamptz,
  version int not null default 1
);
create index unit_course on unit (course_id);

create table rubric (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  title text not null default '',
  version int not null default 1
);

create table rubric_criterion (
  id uuid primary key default gen_random_uuid(),
  rubric_id uuid not null references rubric,
  position int not null,
  title text not null check (length(title) between 1 and 120),
  removed_at timestamptz
);

create table rubric_level (
  id uuid primary key default gen_random_uuid(),
  criterion_id uuid not null references rubric_criterion,
  position int not null,
  title text not null check (length(title) <= 80),
  descriptor text not null default '' check (length(descriptor) <= 600),
  points numeric(9, 3) not null check (points >= 0),
  removed_at timestamptz
);

create table item (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  kind text not null check (kind in ('page', 'assignment', 'quiz', 'discussion', 'file', 'link', 'activity')),
  title text not null check (length(title) between 1 and 160),
  is_draft boolean not null default true,
  category_id uuid references category,
  period_id uuid references grading_period,
  possible numeric(9, 3) not null default 0 check (possible between 0 and 10000),
  multiplier numeric(6, 3) not null default 1 check (multiplier between 0 and 100),
  is_extra_credit boolean not null default false,
  counts boolean not null default true,
  is_required boolean not null default true,
  announced_at timestamptz,
  opens_at timestamptz,
  due_at timestamptz,
  closes_at timestamptz,
  week int check (week between 1 and 60),
  estimated_minutes int not null default 30 check (estimated_minutes between 0 and 6000),
  marking_minutes int not null default 0 check (marking_minutes between 0 and 600),
  done_rule text not null check (done_rule in ('opened', 'ticked', 'handed in', 'marked', 'score', 'never')),
  done_score numeric(9, 3),
  release_mode text not null default 'hand' check (release_mode in ('finished', 'date', 'hand')),
  release_at timestamptz,
  removed_at timestamptz,
  created_at timestamptz not null default now(),
  version int not null default 1
);
create index item_course on item (course_id) where removed_at is null;

-- One item may stand in several units.
create table unit_item (
  unit_id uuid not null references unit,
  item_id uuid not null references item,
  position int not null,
  primary key (unit_id, item_id)
);
create index unit_item_item on unit_item (item_id);

create table date_variant (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references item,
  section_id uuid references section,
  enrolment_id uuid references enrolment,
  announced_at timestamptz,
  opens_at timestamptz,
  due_at timestamptz,
  closes_at timestamptz,
  check (num_nonnulls(section_id, enrolment_id) = 1)
);
create unique index date_variant_section on date_variant (item_id, section_id) where section_id is not null;
create unique index date_variant_person on date_variant (item_id, enrolment_id) where enrolment_id is not null;

create table page (
  item_id uuid primary key references item,
  document jsonb not null,
  version int not null default 1
);

create table assignment (
  item_id uuid primary key references item,
  instructions jsonb not null,
  accepts_text boolean not null default true,
  accepts_files boolean not null default false,
  file_types text[] not null default '{pdf}',
  most_files int not null default 5 check (most_files between 1 and 50),
  most_bytes bigint not null default 20971520 check (most_bytes between 1 and 314572800),
  attempts_allowed int check (attempts_allowed between 1 and 50),
  rubric_id uuid references rubric,
  version int not null default 1
);

-- Content-addressed and in chunks: one thing to back up, streamed both ways.
create table file_blob (
  sha256 bytea primary key,
  size bigint not null,
  media_type text not null
);

create table file_chunk (
  sha256 bytea not null references file_blob,
  number int not null,
  bytes bytea not null,
  primary key (sha256, number)
);
alter table file_chunk alter column bytes set storage external;

create table file (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  sha256 bytea not null references file_blob,
  name text not null check (length(name) between 1 and 200),
  owner_id uuid not null references person,
  created_at timestamptz not null default now()
);
create index file_course on file (course_id);

-- Where a course file is used; students reach a file only through one of these.
create table item_file (
  item_id uuid not null references item,
  file_id uuid not null references file,
  primary key (item_id, file_id)
);
create index item_file_file on item_file (file_id);

-- One for each student and item, made when the first of them touches it. A group hand-in makes an attempt for each member.
create table submission (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references item,
  enrolment_id uuid not null references enrolment,
  draft jsonb,
  draft_saved_at timestamptz,
  version int not null default 1,
  unique (item_id, enrolment_id)
);
create index submission_enrolment on submission (enrolment_id);

create table submission_draft_file (
  submission_id uuid not null references submission,
  file_id uuid not null references file,
  position int not null,
  primary key (submission_id, file_id)
);
create index submission_draft_file_file on submission_draft_file (file_id);

create table attempt (
  id uuid primary key default gen_random_uuid(),
  submission_id uuid not null references submission,
  number int not null,
  document jsonb,
  word_count int not null default 0,
  note text not null default '' check (length(note) <= 2000),
  content_hash text not null,
  handed_in_at timestamptz not null,
  handed_in_by uuid not null references person,
  idempotency_key text not null,
  unique (submission_id, number),
  unique (submission_id, idempotency_key)
);

create table attempt_file (
  attempt_id uuid not null references attempt,
  file_id uuid not null references file,
  position int not null,
  primary key (attempt_id, file_id)
);
create index attempt_file_file on attempt_file (file_id);

-- What a marker is making of a submission. `slot` lets two markers judge one piece.
create table mark (
  id uuid primary key default gen_random_uuid(),
  submission_id uuid not null references submission,
  slot smallint not null default 1,
  marker_id uuid not null references person,
  choices jsonb not null default '{}',
  score numeric(9, 3),
  score_reason text not null default '' check (length(score_reason) <= 600),
  feedback jsonb,
  state text not null default 'draft' check (state in ('draft', 'finished')),
  started_at timestamptz not null,
  saved_at timestamptz not null,
  finished_at timestamptz,
  version int not null default 1,
  unique (submission_id, slot)
);

create table margin_note (
  id uuid primary key default gen_random_uuid(),
  attempt_id uuid not null references attempt,
  file_id uuid references file,
  anchor jsonb not null,
  quote text not null check (length(quote) <= 2000),
  body text not null check (length(body) <= 4000),
  author_id uuid not null references person,
  created_at timestamptz not null,
  removed_at timestamptz,
  version int not null default 1
);
create index margin_note_attempt on margin_note (attempt_id) where removed_at is null;

-- The ledger: every grade event ever.
create table grade_event (
  id bigint generated always as identity primary key,
  item_id uuid not null references item,
  enrolment_id uuid not null references enrolment,
  kind text not null check (kind in ('set', 'release', 'withhold', 'undo')),
  state text check (state in ('scored', 'exempt', 'unfinished', 'missing')),
  raw numeric(9, 3),
  is_released boolean not null,
  source text not null check (source in ('marking', 'gradebook', 'demo', 'job')),
  reason text not null default '',
  undoes bigint references grade_event,
  actor_id uuid not null references person,
  at timestamptz not null,
  check ((state = 'scored') = (raw is not null))
);
create index grade_event_cell on grade_event (item_id, enrolment_id, id);

create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception 'the grade ledger is append-only';
end $$;
create trigger grade_event_is_append_only before update or delete or truncate on grade_event
  for each statement execute function refuse_change();

-- The current state, kept in the transaction that writes the event.
create table grade (
  item_id uuid not null references item,
  enrolment_id uuid not null references enrolment,
  state text,
  raw numeric(9, 3),
  is_released boolean not null default false,
  last_event_id bigint not null references grade_event,
  primary key (item_id, enrolment_id)
);
create index grade_enrolment on grade (enrolment_id);

create table visit (
  id bigint generated always as identity primary key,
  item_id uuid not null references item,
  enrolment_id uuid not null references enrolment,
  at timestamptz not null,
  seconds int not null default 0 check (seconds between 0 and 86400)
);
create index visit_enrolment on visit (enrolment_id, item_id, at);

create table tick (
  item_id uuid not null references item,
  enrolment_id uuid not null references enrolment,
  at timestamptz not null,
  primary key (item_id, enrolment_id)
);

create table slip_choice (
  person_id uuid not null references person,
  slip text not null,
  hidden_until timestamptz,
  primary key (person_id, slip)
);

create table audit (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  actor_id uuid references person,
  course_id uuid references course,
  action text not null,
  subject uuid,
  before jsonb,
  after jsonb
);
create index audit_course on audit (course_id, at);

-- The application's own role: it may read and write, but the ledger and the audit only grow.
grant usage on schema public to rosemary_app;
grant select, insert, update, delete on all tables in schema public to rosemary_app;
grant usage on all sequences in schema public to rosemary_app;
revoke update, delete, truncate on grade_event, audit from rosemary_app;

