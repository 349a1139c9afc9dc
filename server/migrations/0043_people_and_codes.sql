-- Somebody who has left the school signs in no more; what they did stays, under their name.
alter table person add column deactivated_at timestamptz;
-- Codes as schools write them: `HOR 110`.
alter table course drop constraint course_code_check;
alter table course add constraint course_code_check check (code ~ '^[A-Za-z0-9]([A-Za-z0-9 .-]{0,18}[A-Za-z0-9.-])?$' and code !~ '  ');
alter table course drop constraint course_run_check;
alter table course add constraint course_run_check check (run ~ '^[A-Za-z0-9]([A-Za-z0-9 .-]{0,18}[A-Za-z0-9.-])?$' and run !~ '  ');
