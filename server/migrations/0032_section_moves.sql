-- Who changed section, from where, to where and when; those who changed together share an act. What was said to a section and what is for it
-- stays with whoever was in it, and a joining can be taken back at any later time.
create table section_move (
  id uuid primary key default gen_random_uuid(),
  -- The order they came in: two may share an instant.
  number bigint generated always as identity,
  course_id uuid not null references course,
  enrolment_id uuid not null references enrolment,
  from_section_id uuid not null references section,
  to_section_id uuid not null references section,
  act_id uuid not null,
  at timestamptz not null
);
create index section_move_enrolment on section_move (enrolment_id, number);
create index section_move_act on section_move (act_id);
create index section_move_course on section_move (course_id);
create index section_move_from on section_move (from_section_id);
create index section_move_to on section_move (to_section_id);

-- A section that was joined to another; its act names whom it moved.
create table section_joining (
  act_id uuid primary key,
  course_id uuid not null references course,
  section_id uuid not null references section,
  into_id uuid not null references section,
  at timestamptz not null,
  parted_at timestamptz
);
create index section_joining_course on section_joining (course_id);
create index section_joining_section on section_joining (section_id);
create index section_joining_into on section_joining (into_id);

-- A date that became somebody's own when they left the section it was set for.
alter table date_variant add column move_id uuid references section_move;
create index date_variant_move on date_variant (move_id);

grant select, insert, update, delete on section_move, section_joining to rosemary_app;
