-- Sets of groups: a student is in one group of a set at most. Something can be for a group, and a date can be another for it.

create table group_set (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  title text not null check (length(title) between 1 and 80),
  position int not null,
  removed_at timestamptz,
  version int not null default 1
);
create index group_set_course on group_set (course_id);

create table course_group (
  id uuid primary key default gen_random_uuid(),
  set_id uuid not null references group_set,
  title text not null check (length(title) between 1 and 80),
  position int not null
);
create index course_group_set on course_group (set_id);

create table group_member (
  group_id uuid not null references course_group on delete cascade,
  enrolment_id uuid not null references enrolment,
  primary key (group_id, enrolment_id)
);
create index group_member_enrolment on group_member (enrolment_id);

alter table audience add column group_id uuid references course_group;
alter table audience drop constraint audience_check1;
alter table audience add constraint audience_is_for_one check (num_nonnulls(section_id, enrolment_id, group_id) = 1);
alter table date_variant add column group_id uuid references course_group;
alter table date_variant drop constraint date_variant_check;
alter table date_variant add constraint date_variant_is_for_one check (num_nonnulls(section_id, enrolment_id, group_id) = 1);
create unique index date_variant_group on date_variant (item_id, group_id) where group_id is not null;

grant select, insert, update, delete on group_set, course_group, group_member to rosemary_app;
