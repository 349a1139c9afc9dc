-- What follows stands at every item whose result or reviews can be waited for, and a rule may wait for the reviews that a student gives.
alter table follow_rule drop constraint follow_rule_item_id_fkey;
alter table follow_rule add constraint follow_rule_item_id_fkey foreign key (item_id) references item;
alter table follow_rule drop constraint follow_rule_meets_check;
alter table follow_rule add constraint follow_rule_meets_check check (meets in ('reaches', 'misses', 'gave reviews'));

-- Whether a student has given every review that is theirs to give, at each item where there are any.
create view reviews_given as
  select item_id, enrolment_id, bool_and(handed_in_at is not null) as are_given
  from review where dropped_at is null and enrolment_id is not null group by item_id, enrolment_id;
grant select on reviews_given to rosemary_app;

-- An attempt at a quiz is a work to review once something is written in it at length: an empty essay gives nobody anything to read.
create or replace view reviewed_work as
  select s.item_id, s.enrolment_id, s.id as own_id, lead.submission_id as work_id, lead.id as attempt_id, lead.handed_in_at,
         (select min(a.handed_in_at) from attempt a where a.submission_id = s.id) as first_at
  from submission s
  join lateral (select coalesce(a.lead_id, a.id) as id from attempt a where a.submission_id = s.id order by a.number desc limit 1) last on true
  join attempt lead on lead.id = last.id
  union all
  select s.item_id, s.enrolment_id, s.id, s.id, null, posts.first_at, posts.first_at
  from submission s join discussion d on d.item_id = s.item_id
  join lateral (select min(o.created_at) as first_at from post o where o.item_id = s.item_id and o.enrolment_id = s.enrolment_id and o.removed_at is null and o.hidden_at is null) posts
    on posts.first_at is not null
  union all
  select s.item_id, s.enrolment_id, s.id, s.id, null, taken.handed_in_at, taken.handed_in_at
  from submission s join quiz q on q.item_id = s.item_id
  join lateral (select a.id, a.handed_in_at from quiz_attempt a where a.item_id = s.item_id and a.enrolment_id = s.enrolment_id and a.state = 'handed in' order by a.number desc limit 1) taken
    on taken.handed_in_at is not null and exists (
      select 1 from quiz_answer w where w.attempt_id = taken.id
        and (jsonb_path_exists(w.answer -> 'document', '$.**.text ? (@ like_regex "\\S")')
          or jsonb_path_exists(w.answer -> 'document', '$.**.type ? (@ != "doc" && @ != "paragraph" && @ != "text" && @ != "hardBreak")')));

-- Notes stand at the words of posts and of essays too, which are no attempt at an assignment.
alter table review_note alter column attempt_id drop not null;
