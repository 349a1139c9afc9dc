-- What comes in, in more ways than text and files; and how it is judged.
alter table assignment
  add column accepts_link boolean not null default false,
  add column accepts_recording boolean not null default false,
  -- It comes in by hand: nobody is missing by themselves.
  add column on_paper boolean not null default false,
  -- In points (with a rubric where there is one), done or not, in words, or not at all: a reminder with a date.
  add column judged text not null default 'points' check (judged in ('points', 'done', 'words', 'none'));
alter table assignment
  add column takes_work boolean not null generated always as (accepts_text or accepts_files or accepts_link or accepts_recording) stored;
alter table submission add column draft_link text not null default '' check (length(draft_link) <= 2000);
alter table attempt add column link text not null default '' check (length(link) <= 2000);
alter table grade_event drop constraint grade_event_state_check;
alter table grade_event add constraint grade_event_state_check check (state in ('scored', 'exempt', 'unfinished', 'missing', 'judged'));
