-- Marking that is fair: without names, shared out, by two.
alter table assignment
  -- Names are hidden from those who mark: until the mark is released, or until a date.
  add column anonymous text not null default 'none' check (anonymous in ('none', 'release', 'date')),
  add column anonymous_until timestamptz,
  -- What makes the names under which works stand then; nobody is told it.
  add column anonymous_key uuid not null default gen_random_uuid(),
  -- Two mark each work on their own, and then agree. Slot 1 of `mark` is the one that counts; theirs are 2 and 3.
  add column markers smallint not null default 1 check (markers in (1, 2)),
  add check (anonymous <> 'date' or anonymous_until is not null);
alter table mark drop constraint mark_submission_id_slot_key;
alter table mark add constraint mark_of_submission unique (submission_id, slot);
alter table mark add check (slot between 1 and 3);
-- Whose work is marked by whom. Nothing here: everyone marks those they reach.
create table marking_share (
  item_id uuid not null references item,
  enrolment_id uuid not null references enrolment,
  marker_id uuid not null references person,
  -- With two markers each has a slot of their own, 2 or 3; else 1.
  slot smallint not null default 1 check (slot between 1 and 3),
  primary key (item_id, enrolment_id, slot)
);
create index marking_share_marker on marking_share (marker_id, item_id);
grant select, insert, update, delete on marking_share to rosemary_app;
