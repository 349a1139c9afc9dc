-- What grades are made from beside the marks (dates, points, whom something is for, who is in the course, the policy) has no past of its own.
-- From now on every change of it leaves what stood there before, so that the gradebook can be shown as it was on any day.
create table past (
  id bigint generated always as identity primary key,
  course_id uuid not null,
  table_name text not null,
  -- The primary key of the row, its parts with a space between them.
  row_key text not null,
  at timestamptz not null,
  -- The row as it was before; none where it was not there.
  row_before jsonb
);
create index past_course on past (course_id, at);

-- Since when the past of a course is known: of those that were here before this was kept. Of later ones it is known from the beginning.
create table past_since (
  course_id uuid primary key references course on delete cascade,
  at timestamptz not null
);
insert into past_since (course_id, at) select id, now() from course;

-- By the clock of the school where the transaction names it, else by that of the database.
create function keep_past() returns trigger language plpgsql as $$
declare
  was jsonb := case when tg_op = 'INSERT' then null else to_jsonb(old) end;
  will jsonb := case when tg_op = 'DELETE' then null else to_jsonb(new) end;
  one jsonb := coalesce(was, will);
  said text := nullif(current_setting('rosemary.now', true), '');
  named text;
  of_course uuid;
begin
  if was = will then return null; end if;
  select string_agg(one ->> k, ' ' order by n) into named from unnest(string_to_array(tg_argv[0], ' ')) with ordinality as t(k, n);
  of_course := case tg_argv[1]
    when 'course' then (one ->> 'course_id')::uuid
    when 'item' then coalesce((select course_id from item where id = (one ->> 'item_id')::uuid), (select course_id from unit where id = (one ->> 'unit_id')::uuid))
    when 'unit' then (select course_id from unit where id = (one ->> 'unit_id')::uuid)
    when 'column' then (select course_id from grade_column where id = (one ->> 'column_id')::uuid)
    -- Of a category that goes, what belongs to it goes after it.
    when 'category' then coalesce((select course_id from category where id = (one ->> 'category_id')::uuid),
      (select course_id from past where table_name = 'category' and row_key = one ->> 'category_id' order by id desc limit 1))
    when 'scheme' then (select course_id from scheme where id = (one ->> 'scheme_id')::uuid)
    when 'enrolment' then (select course_id from enrolment where id = (one ->> 'enrolment_id')::uuid)
    when 'group' then (select s.course_id from course_group g join group_set s on s.id = g.set_id where g.id = (one ->> 'group_id')::uuid)
  end;
  if of_course is not null then
    insert into past (course_id, table_name, row_key, at, row_before)
    values (of_course, tg_table_name, named, coalesce(to_timestamp(said::float8 / 1000.0), now()), was);
  end if;
  return null;
end $$;

do $$
declare t record;
begin
  for t in select * from (values
    ('item', 'id', 'course'), ('grade_column', 'id', 'course'), ('column_late', 'column_id', 'column'), ('column_curve', 'column_id', 'column'),
    ('category', 'id', 'course'), ('category_late', 'category_id', 'category'), ('grading_policy', 'course_id', 'course'),
    ('scheme_level', 'scheme_id position', 'scheme'), ('grading_period', 'id', 'course'), ('date_variant', 'id', 'item'), ('audience', 'id', 'item'),
    ('arrangement', 'id', 'enrolment'), ('enrolment', 'id', 'course'), ('assignment', 'item_id', 'item'), ('quiz', 'item_id', 'item'),
    ('unit', 'id', 'course'), ('unit_item', 'unit_id item_id', 'unit'), ('group_member', 'group_id enrolment_id', 'group')) as v(name, named, found)
  loop
    -- Named so that it comes before what the database does by itself to what belongs to a row.
    execute format('create trigger "A_keeps_past" after insert or update or delete on %I for each row execute function keep_past(%L, %L)', t.name, t.named, t.found);
  end loop;
end $$;

grant select, insert on past to rosemary_app;
grant select on past_since to rosemary_app;

-- What the nightly comparison of the ledger with the grades that are kept has found.
create table ledger_check (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  cells int not null,
  differing int not null,
  -- Some of those that differ, in words.
  examples jsonb not null default '[]'
);
grant select, insert, delete on ledger_check to rosemary_app;
