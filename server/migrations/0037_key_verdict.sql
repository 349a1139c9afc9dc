-- What keeps a question from being asked is found once, when its version is written, and kept with it: a formula or a pattern is not worked
-- out again each time somebody opens the bank. `faults_by` is the number of the rules it was found by.
alter table question_version
  add column faults jsonb check (jsonb_typeof(faults) = 'array'),
  add column faults_by integer;
create index on question_version (question_id) where faults is null;
