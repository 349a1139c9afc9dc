-- Quizzes and the bank of questions they are made from.
alter table grade_event drop constraint grade_event_source_check;
alter table grade_event add constraint grade_event_source_check check (source in ('marking', 'gradebook', 'demo', 'job', 'quiz'));

-- Whose a folder is: everybody's who teaches a course of this code, one person's, or (neither) the school's.
create table bank_folder (
  id uuid primary key default gen_random_uuid(),
  parent_id uuid references bank_folder,
  title text not null check (length(title) between 1 and 120),
  subject text,
  person_id uuid references person,
  removed_at timestamptz,
  version int not null default 1,
  check (num_nonnulls(subject, person_id) <= 1)
);
create unique index bank_folder_subject on bank_folder (subject) where parent_id is null and subject is not null;
create unique index bank_folder_person on bank_folder (person_id) where parent_id is null and person_id is not null;
create unique index bank_folder_school on bank_folder ((true)) where parent_id is null and subject is null and person_id is null;
create index bank_folder_parent on bank_folder (parent_id);
create table bank_share (
  folder_id uuid not null references bank_folder,
  person_id uuid not null references person,
  can_edit boolean not null default false,
  primary key (folder_id, person_id)
);
create index bank_share_person on bank_share (person_id);

-- A text or picture that several questions share.
create table stimulus (
  id uuid primary key default gen_random_uuid(),
  folder_id uuid not null references bank_folder,
  title text not null default '' check (length(title) <= 160),
  document jsonb not null,
  version int not null default 1
);
create index stimulus_folder on stimulus (folder_id);
create table question (
  id uuid primary key default gen_random_uuid(),
  folder_id uuid not null references bank_folder,
  stimulus_id uuid references stimulus,
  title text not null default '' check (length(title) <= 160),
  level text check (level in ('easy', 'medium', 'hard')),
  author_id uuid not null references person,
  created_at timestamptz not null,
  retired_at timestamptz,
  newest int not null default 1,
  version int not null default 1
);
create index question_folder on question (folder_id);
create index question_stimulus on question (stimulus_id) where stimulus_id is not null;
-- A version that somebody has taken is never written over: `fixed_at` says since when.
create table question_version (
  question_id uuid not null references question,
  number int not null,
  kind text not null check (kind in ('single', 'truth', 'several', 'numeric', 'calculated', 'short', 'blanks', 'matching', 'ordering', 'hotspot', 'essay', 'file')),
  words jsonb not null,
  -- The words alone, for searching.
  plain text not null,
  key jsonb not null,
  feedback jsonb not null,
  picture jsonb,
  made_by uuid not null references person,
  made_at timestamptz not null,
  fixed_at timestamptz,
  primary key (question_id, number)
);
create table question_tag (
  question_id uuid not null references question,
  tag text not null check (length(tag) between 1 and 40),
  primary key (question_id, tag)
);
create index question_tag_tag on question_tag (lower(tag));
-- By the objective's code, which is the same from term to term.
create table question_objective (
  question_id uuid not null references question,
  code text not null check (length(code) between 1 and 60),
  primary key (question_id, code)
);
create table question_file (
  question_id uuid not null references question,
  file_id uuid not null references file,
  primary key (question_id, file_id)
);
create index question_file_file on question_file (file_id);

create table quiz (
  item_id uuid primary key references item,
  instructions jsonb not null,
  layout text not null default 'one' check (layout in ('one', 'page')),
  may_go_back boolean not null default true,
  shuffles_sections boolean not null default false,
  shuffles_answers boolean not null default true,
  limit_minutes int check (limit_minutes between 1 and 1440),
  at_end text not null default 'hand in' check (at_end in ('hand in', 'flag')),
  attempts_allowed int default 1 check (attempts_allowed between 1 and 50),
  counted text not null default 'best' check (counted in ('latest', 'best', 'first', 'mean')),
  -- No further attempt once so many points are reached.
  retry_until numeric(9, 3) check (retry_until >= 0),
  review jsonb not null default '{"score": {"kind": "at once"}, "answers": {"kind": "at once"}, "key": {"kind": "closed"}, "feedback": {"kind": "closed"}}',
  allows_calculator boolean not null default false,
  access_code text not null default '' check (length(access_code) <= 40),
  allowed_addresses text[] not null default '{}',
  records_leaving boolean not null default false,
  discourages_copying boolean not null default false,
  pass_points numeric(9, 3),
  merit_points numeric(9, 3),
  version int not null default 1
);
create table quiz_section (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references quiz,
  position int not null,
  title text not null default '' check (length(title) <= 160),
  instructions text not null default '' check (length(instructions) <= 2000),
  is_shuffled boolean not null default false
);
create index quiz_section_item on quiz_section (item_id);
create table quiz_part (
  id uuid primary key default gen_random_uuid(),
  section_id uuid not null references quiz_section on delete cascade,
  position int not null,
  question_id uuid references question,
  question_version int,
  points numeric(9, 3) not null check (points >= 0),
  floor numeric(9, 3) default 0 check (floor <= 0),
  -- What is drawn: how many, and from what.
  draw jsonb,
  check ((question_id is null) = (draw is not null)),
  foreign key (question_id, question_version) references question_version
);
create index quiz_part_section on quiz_part (section_id);
create index quiz_part_question on quiz_part (question_id) where question_id is not null;

create table quiz_attempt (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references quiz,
  enrolment_id uuid not null references enrolment,
  number int not null,
  seed text not null,
  -- The paper as it was drawn: its questions with version, points and floor, in their order.
  paper jsonb not null,
  state text not null default 'open' check (state in ('open', 'handed in', 'set aside')),
  begun_at timestamptz not null,
  ends_at timestamptz,
  added_minutes int not null default 0 check (added_minutes between 0 and 10000),
  handed_in_at timestamptz,
  handed_in_how text check (handed_in_how in ('student', 'time', 'instructor')),
  over_seconds int not null default 0,
  score numeric(9, 3),
  scored_at timestamptz,
  idempotency_key text not null,
  version int not null default 1,
  unique (item_id, enrolment_id, number),
  unique (item_id, enrolment_id, idempotency_key),
  check ((state = 'open') = (handed_in_at is null) or state = 'set aside')
);
create unique index quiz_attempt_open on quiz_attempt (item_id, enrolment_id) where state = 'open';
create index quiz_attempt_ends on quiz_attempt (ends_at) where state = 'open';
create index quiz_attempt_enrolment on quiz_attempt (enrolment_id);
-- What stands for each question now.
create table quiz_answer (
  attempt_id uuid not null references quiz_attempt,
  question_id uuid not null references question,
  answer jsonb,
  is_flagged boolean not null default false,
  seconds int not null default 0,
  version int not null default 1,
  device text not null,
  turn int not null,
  saved_at timestamptz not null,
  primary key (attempt_id, question_id)
);
-- Every save that was taken, and those that came after time: append-only.
create table quiz_answer_event (
  id bigint generated always as identity primary key,
  attempt_id uuid not null references quiz_attempt,
  question_id uuid not null references question,
  answer jsonb,
  device text not null,
  turn int not null,
  at timestamptz not null,
  is_late boolean not null default false
);
create index quiz_answer_event_attempt on quiz_answer_event (attempt_id);
create trigger quiz_answer_event_is_append_only before update or delete or truncate on quiz_answer_event
  for each statement execute function refuse_change();
-- The exact share of its points each question earned, with the rule that gave it; null waits for a person.
create table quiz_score (
  attempt_id uuid not null references quiz_attempt,
  question_id uuid not null references question,
  share text,
  rule text not null,
  points numeric(9, 3) not null,
  -- What a person gave, which counts before the key.
  given text,
  given_by uuid references person,
  given_reason text not null default '',
  given_at timestamptz,
  version int not null default 1,
  primary key (attempt_id, question_id)
);
create index quiz_score_question on quiz_score (question_id);
create table quiz_leave (
  id bigint generated always as identity primary key,
  attempt_id uuid not null references quiz_attempt,
  left_at timestamptz not null,
  back_at timestamptz
);
create index quiz_leave_attempt on quiz_leave (attempt_id);
-- Extended, resumed, handed in or set aside by staff: append-only.
create table quiz_attempt_event (
  id bigint generated always as identity primary key,
  attempt_id uuid not null references quiz_attempt,
  action text not null,
  detail text not null default '',
  by_person uuid not null references person,
  at timestamptz not null
);
create index quiz_attempt_event_attempt on quiz_attempt_event (attempt_id);
create table quiz_correction (
  id uuid primary key default gen_random_uuid(),
  place bigint generated always as identity,
  item_id uuid not null references quiz,
  question_id uuid not null references question,
  kind text not null check (kind in ('key', 'drop', 'credit', 'points')),
  key jsonb,
  points numeric(9, 3),
  reason text not null check (length(reason) between 1 and 600),
  made_by uuid not null references person,
  made_at timestamptz not null,
  undone_by uuid references person,
  undone_at timestamptz,
  -- Attempts are marked again by a job; null is still to be done.
  applied_at timestamptz
);
create index quiz_correction_item on quiz_correction (item_id);

-- Everything that was handed in or taken, whatever it is.
create view hand_in as
  select s.item_id, s.enrolment_id, a.number, a.handed_in_at from attempt a join submission s on s.id = a.submission_id
  union all
  select q.item_id, q.enrolment_id, q.number, q.handed_in_at from quiz_attempt q where q.state = 'handed in';

grant select, insert, update, delete on bank_folder, bank_share, stimulus, question, question_version, question_tag, question_objective, question_file,
  quiz, quiz_section, quiz_part, quiz_attempt, quiz_answer, quiz_score, quiz_leave, quiz_correction to rosemary_app;
grant select, insert on quiz_answer_event, quiz_attempt_event to rosemary_app;
grant select on hand_in to rosemary_app;

-- Quizzes that were planned before there was anything in them.
insert into quiz (item_id, instructions) select id, '{"type": "doc", "content": [{"type": "paragraph"}]}' from item where kind = 'quiz';
insert into quiz_section (item_id, position) select item_id, 0 from quiz;
