-- Peer review: students read and assess each other's works, on an assignment with a second set of dates.

-- What is chosen of it. An item without a row is not reviewed by students; one that is switched off keeps what was chosen.
create table peer_setting (
  item_id uuid primary key references item,
  is_on boolean not null default true,
  prompt jsonb not null,
  rubric_id uuid references rubric,
  reviews_per_work int not null check (reviews_per_work between 1 and 10),
  reviews_per_student int not null check (reviews_per_student between 1 and 10),
  own_work text not null check (own_work in ('none', 'first', 'last', 'alone')),
  shows_authors boolean not null,
  shows_reviewers boolean not null,
  needs_own_work boolean not null,
  among text not null check (among in ('course', 'section', 'group', 'outside group')),
  group_set_id uuid references group_set,
  reviews_open text not null check (reviews_open in ('own work', 'works due', 'time')),
  drawing text not null check (drawing in ('as they come', 'works due', 'time', 'hand')),
  fits_late_works boolean not null,
  takes_late_reviews boolean not null,
  least_words int not null check (least_words between 0 and 500),
  work_from text not null check (work_from in ('consensus', 'mean', 'teacher')),
  teacher_counts text not null check (teacher_counts in ('one', 'more', 'decides')),
  teacher_weight int not null check (teacher_weight between 2 and 10),
  reviewing_from text not null check (reviewing_from in ('nearness', 'done', 'teacher', 'nothing')),
  strictness text not null check (strictness in ('strict', 'firm', 'fair', 'mild', 'lax')),
  samples text not null check (samples in ('before', 'any time', 'after')),
  reviews_open_at timestamptz,
  reviews_due_at timestamptz,
  draw_at timestamptz,
  results_at timestamptz,
  -- When it was first drawn who reviews whom, and when students were given the results.
  drawn_at timestamptz,
  -- When it was last looked whether works that came since are to be given out.
  fitted_at timestamptz,
  results_out_at timestamptz,
  -- What the names that hide names are made from; nobody is told.
  veil_key uuid not null default gen_random_uuid(),
  version int not null default 1
);
create index peer_setting_rubric on peer_setting (rubric_id);
create index peer_setting_group_set on peer_setting (group_set_id);

-- Dates of the reviews that hold for a section, a group or a student alone.
create table review_date (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references item,
  section_id uuid references section,
  enrolment_id uuid references enrolment,
  group_id uuid references course_group,
  opens_at timestamptz,
  due_at timestamptz,
  move_id uuid references section_move,
  check (num_nonnulls(section_id, enrolment_id, group_id) = 1)
);
create index review_date_item on review_date (item_id);
create index review_date_section on review_date (section_id);
create index review_date_enrolment on review_date (enrolment_id);
create index review_date_group on review_date (group_id);
create index review_date_move on review_date (move_id);

-- One review: of a work by another student, by its own author, or by staff; what is drawn and not begun is one too.
create table review (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references item,
  role text not null check (role in ('peer', 'self', 'teacher')),
  -- The work, by the submission of whoever handed it in for all of its authors.
  submission_id uuid not null references submission,
  -- Who gives it: a student; or a member of staff.
  enrolment_id uuid references enrolment,
  person_id uuid references person,
  origin text not null check (origin in ('drawn', 'hand', 'own')),
  -- The drawing it came from, which is taken back as one.
  draw_id uuid,
  made_at timestamptz not null,
  -- Taken from its reviewer again, with the reason.
  dropped_at timestamptz,
  dropped_why text not null default '' check (length(dropped_why) <= 200),
  -- The drawing that took it away, which gives it back when it is taken back itself.
  dropped_by_draw uuid,
  choices jsonb not null default '{}',
  given jsonb not null default '{}',
  comments jsonb not null default '{}',
  words text not null default '' check (length(words) <= 20000),
  seconds int not null default 0 check (seconds between 0 and 86400),
  saved_at timestamptz,
  handed_in_at timestamptz,
  -- The criteria it was given under, and the attempt that was read: a form that is changed later leaves it as it was.
  form jsonb,
  attempt_id uuid references attempt,
  version int not null default 1,
  set_aside_at timestamptz,
  set_aside_by uuid references person,
  set_aside_why text not null default '' check (length(set_aside_why) <= 600),
  keeps_credit boolean not null default true,
  -- What the author says to it once results are out.
  answer text not null default '' check (length(answer) <= 4000),
  is_thanked boolean not null default false,
  reported_why text not null default '' check (length(reported_why) <= 2000),
  reported_at timestamptz,
  answer_version int not null default 1,
  check ((role = 'teacher') = (enrolment_id is null)),
  check ((role = 'teacher') = (person_id is not null)),
  check ((handed_in_at is null) = (form is null))
);
-- Nobody has a work twice, and staff assess it once.
create unique index review_pair on review (submission_id, enrolment_id) where dropped_at is null and enrolment_id is not null;
create unique index review_of_staff on review (submission_id) where role = 'teacher';
create index review_item on review (item_id);
create index review_submission on review (submission_id);
create index review_enrolment on review (enrolment_id);
create index review_person on review (person_id);
create index review_attempt on review (attempt_id);
create index review_set_aside_by on review (set_aside_by);
create index review_draw on review (draw_id) where draw_id is not null;
create index review_dropped_by_draw on review (dropped_by_draw) where dropped_by_draw is not null;

-- A note at a place of the work that belongs to a review; the teacher's own notes are elsewhere.
create table review_note (
  id uuid primary key,
  review_id uuid not null references review,
  -- A work that is taken back takes along the notes of those who were to review it and are not any more.
  attempt_id uuid not null references attempt on delete cascade,
  file_id uuid references file,
  anchor jsonb not null,
  quote text not null check (length(quote) <= 2000),
  body text not null check (length(body) <= 4000),
  version int not null default 1,
  removed_at timestamptz
);
create index review_note_review on review_note (review_id);
create index review_note_attempt on review_note (attempt_id);
create index review_note_file on review_note (file_id);

alter table grade_event drop constraint grade_event_source_check;
alter table grade_event add constraint grade_event_source_check
  check (source in ('marking', 'gradebook', 'demo', 'job', 'quiz', 'paste', 'fill', 'import', 'reviews'));

-- Whoever is given works to review, or gets reviews, is told so by a kind of its own.
alter table notice drop constraint notice_kind_check;
alter table notice add constraint notice_kind_check check (kind in ('announcement', 'reply', 'returned', 'message', 'review'));
alter table notice_choice drop constraint notice_choice_kind_check;
alter table notice_choice add constraint notice_choice_kind_check check (kind in ('announcement', 'reply', 'returned', 'message', 'review'));

grant select, insert, update, delete on peer_setting, review_date, review, review_note to rosemary_app;
