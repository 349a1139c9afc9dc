-- Items that were given to several classes at once, and the copy that each class was given.
create table giving (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  person_id uuid not null references person,
  at timestamptz not null,
  -- Its copies and what was announced of them were deleted at this moment, and come back together.
  taken_back_at timestamptz
);
create index giving_course on giving (course_id);
create index giving_person on giving (person_id);

create table given_item (
  item_id uuid primary key references item,
  giving_id uuid not null references giving,
  -- What was given; the copy stands in a course, for one of its sections or for all of it.
  of_item_id uuid not null references item,
  section_id uuid references section,
  -- What told its students of it.
  announcement_id uuid references announcement
);
create index given_item_giving on given_item (giving_id);
create index given_item_of on given_item (of_item_id);
create index given_item_section on given_item (section_id);
create index given_item_announcement on given_item (announcement_id);
grant select, insert on given_item to rosemary_app;
grant select, insert, update on giving to rosemary_app;
