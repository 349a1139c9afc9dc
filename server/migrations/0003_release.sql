-- When and to whom things open: audiences, staff-only material, dates of whole units, rules of opening, openings by hand.

alter table item add column is_staff_only boolean not null default false;
-- Staff-only material stays a draft to every student, whatever else is said of it.
alter table item add constraint item_staff_only_is_draft check (not is_staff_only or is_draft);
alter table item add column opening_needs text not null default 'all' check (opening_needs in ('all', 'any'));

alter table unit add column announced_at timestamptz;
alter table unit add column opens_at timestamptz;
alter table unit add column closes_at timestamptz;
alter table unit add column is_staff_only boolean not null default false;

-- Whom an item or a unit is for; none named is everyone.
create table audience (
  id uuid primary key default gen_random_uuid(),
  item_id uuid references item,
  unit_id uuid references unit,
  section_id uuid references section,
  enrolment_id uuid references enrolment,
  check (num_nonnulls(item_id, unit_id) = 1),
  check (num_nonnulls(section_id, enrolment_id) = 1)
);
create index audience_item on audience (item_id) where item_id is not null;
create index audience_unit on audience (unit_id) where unit_id is not null;

create table opening_rule (
  item_id uuid not null references item,
  position int not null,
  kind text not null check (kind in ('date', 'done', 'score')),
  at timestamptz,
  other_item_id uuid references item,
  least numeric(9, 3) check (least >= 0),
  primary key (item_id, position),
  check ((kind = 'date') = (at is not null)),
  check ((kind <> 'date') = (other_item_id is not null)),
  check ((kind = 'score') = (least is not null))
);

-- Opened by hand for one student or for all until a time; taking it back is kept as well.
create table hand_opening (
  id uuid primary key default gen_random_uuid(),
  item_id uuid not null references item,
  enrolment_id uuid references enrolment,
  until_at timestamptz not null,
  opened_by uuid not null references person,
  opened_at timestamptz not null,
  ended_at timestamptz
);
create index hand_opening_item on hand_opening (item_id) where ended_at is null;

grant select, insert, update, delete on audience, opening_rule, hand_opening to rosemary_app;
