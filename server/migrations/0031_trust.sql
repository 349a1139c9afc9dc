-- What a marker stood by, each time they did: students read the latest of these once it is released, so that a mark which is taken up
-- again stays with them until it is finished anew; and finishing can be undone.
create table finished_mark (
  id bigint generated always as identity primary key,
  submission_id uuid not null references submission,
  choices jsonb not null,
  score_reason text not null,
  feedback jsonb,
  adjustments jsonb not null,
  given jsonb not null,
  comments jsonb not null,
  -- The notes as they read then, by their identifier.
  notes jsonb not null,
  file_ids uuid[] not null,
  marker_id uuid not null references person,
  finished_at timestamptz not null,
  -- The event of the ledger it made, if it moved the grade, and what its attempt had been given before.
  event_id bigint references grade_event,
  attempt_before jsonb,
  undone_at timestamptz
);
create index finished_mark_submission on finished_mark (submission_id, id);
create index finished_mark_event on finished_mark (event_id);

insert into finished_mark (submission_id, choices, score_reason, feedback, adjustments, given, comments, notes, file_ids, marker_id, finished_at)
select m.submission_id, m.choices, m.score_reason, m.feedback, m.adjustments, m.given, m.comments,
  coalesce((select jsonb_object_agg(n.id, n.body) from margin_note n join attempt a on n.attempt_id = coalesce(a.lead_id, a.id) where a.submission_id = m.submission_id and n.removed_at is null), '{}'),
  coalesce((select array_agg(k.file_id) from feedback_file k where k.submission_id = m.submission_id), '{}'),
  m.marker_id, coalesce(m.finished_at, m.saved_at)
from mark m where m.slot = 1 and m.state = 'finished';
grant select, insert, update on finished_mark to rosemary_app;

-- Rows are looked for by these columns: without an index each such look reads the whole table.
create index on announcement (course_id);
create index on announcement_read (person_id);
create index on announcement_section (section_id);
create index on assignment (group_set_id);
create index on assignment (rubric_id);
create index on assistant_section (section_id);
create index on attempt (lead_id);
create index on audience (item_id);
create index on audience (unit_id);
create index on audience (section_id);
create index on audience (group_id);
create index on audience (enrolment_id);
create index on bank_folder (person_id);
create index on conversation (course_id);
create index on course (term_id);
create index on course (picture_file_id);
create index on date_variant (item_id);
create index on date_variant (section_id);
create index on date_variant (group_id);
create index on date_variant (enrolment_id);
create index on enrolment (section_id);
create index on file (sha256);
create index on file (folder_id);
create index on file (owner_id);
create index on file_folder (course_id);
create index on file_folder (parent_id);
create index on file_past (sha256);
create index on file_past (replaced_by);
create index on follow_done (enrolment_id);
create index on follow_rule (group_id);
create index on follow_rule (opens_item_id);
create index on grade (last_event_id);
create index on grade_event (enrolment_id);
create index on grading_period (course_id);
create index on grading_policy (scheme_id);
create index on hand_opening (item_id);
create index on hand_opening (enrolment_id);
create index on item (course_id);
create index on item (category_id);
create index on item (period_id);
create index on item (source_item_id);
create index on item_shown_file (file_id);
create index on kept_rubric (owner_id);
create index on link_copy (file_id);
create index on margin_note (attempt_id);
create index on margin_note (file_id);
create index on margin_note (remark_id);
create index on marking_share (enrolment_id);
create index on match_source (attempt_id);
create index on notice (course_id);
create index on objective (course_id);
create index on objective (parent_id);
create index on objective_use (objective_id);
create index on objective_use (item_id);
create index on objective_use (criterion_id);
create index on opening_rule (other_item_id);
create index on outbox (person_id);
create index on page_template (owner_id);
create index on paper_scan (file_id);
create index on paper_scan (sheet_id);
create index on paper_sheet (enrolment_id);
create index on post (thread_id);
create index on post (enrolment_id);
create index on post_read (post_id);
create index on question (stimulus_id);
create index on question_share (question_id);
create index on question_share (marker_id);
create index on quiz_answer (question_id);
create index on quiz_answer_event (question_id);
create index on quiz_correction (question_id);
create index on quiz_part (question_id, question_version);
create index on remark (owner_id);
create index on revision (submission_id);
create index on rubric (course_id);
create index on rubric_criterion (rubric_id);
create index on rubric_level (criterion_id);
create index on scheme (course_id);
create index on term_holiday (term_id);
create index on tick (enrolment_id);
create index on unit (default_category_id);
create index on upload (item_id);
create index on visit (item_id);
create index on withdrawn_attempt (submission_id);
create index on work_word_read (person_id);

-- An item without a grading period of its own belongs to the one its due date falls in.
alter table grading_period add column starts_on date, add column ends_on date, add constraint grading_period_days check (ends_on >= starts_on);

-- A piece of a job that failed: how often, why, and when it is tried again. Gone once it is done.
create table job_failure (
  job text not null,
  piece text not null,
  tries int not null default 1,
  reason text not null,
  first_at timestamptz not null,
  last_at timestamptz not null,
  next_at timestamptz not null,
  primary key (job, piece)
);
grant select, insert, update, delete on job_failure to rosemary_app;

-- An attempt keeps the time it began under: a setting that is changed later holds for those who begin later, unless it is given to them too.
alter table quiz_attempt add column limit_minutes int, add column at_end text not null default 'hand in';
update quiz_attempt t set limit_minutes = z.limit_minutes, at_end = z.at_end from quiz z where z.item_id = t.item_id;
