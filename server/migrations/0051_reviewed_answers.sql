-- What somebody wrote in a discussion, and the essays of a quiz, can be reviewed as works are. Each author has a submission there too, by
-- which the work is known; it is made when they write.
insert into submission (item_id, enrolment_id)
  select distinct o.item_id, o.enrolment_id from post o join enrolment e on e.id = o.enrolment_id and e.role = 'student' on conflict do nothing;
insert into submission (item_id, enrolment_id) select distinct a.item_id, a.enrolment_id from quiz_attempt a on conflict do nothing;

-- The work of each author as it can be reviewed now: what was handed in last, all posts of a discussion, the last attempt at a quiz. Works by
-- several have one line for each author, and the same work.
create view reviewed_work as
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
  join lateral (select a.handed_in_at from quiz_attempt a where a.item_id = s.item_id and a.enrolment_id = s.enrolment_id and a.state = 'handed in' order by a.number desc limit 1) taken
    on taken.handed_in_at is not null;
grant select on reviewed_work to rosemary_app;
