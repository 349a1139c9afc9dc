-- The pictures of a text that questions share are reached through its questions, as their own are.
insert into question_file (question_id, file_id)
select distinct q.id, f.id from question q join stimulus s on s.id = q.stimulus_id
  cross join lateral jsonb_path_query(s.document, 'lax $.**.fileId') as found(value) join file f on f.id::text = found.value #>> '{}'
on conflict do nothing;
