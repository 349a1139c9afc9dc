-- Whose the answers to one question are to mark. Nothing here: everyone marks those of the students they reach.
create table question_share (
  item_id uuid not null references quiz,
  question_id uuid not null references question,
  marker_id uuid not null references person,
  primary key (item_id, question_id, marker_id)
);
grant select, insert, update, delete on question_share to rosemary_app;
