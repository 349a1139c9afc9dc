-- Messages to one or many: a teacher's to many is a conversation with each of them, which the others do not see.

create table conversation (
  id uuid primary key default gen_random_uuid(),
  course_id uuid not null references course,
  title text not null check (length(title) between 1 and 160),
  -- One sending makes one conversation with each; sent again with the same key it makes no second.
  sending uuid not null,
  place int not null,
  unique (sending, place)
);

create table conversation_person (
  conversation_id uuid not null references conversation,
  person_id uuid not null references person,
  read_at timestamptz,
  primary key (conversation_id, person_id)
);
create index conversation_person_person on conversation_person (person_id);

create table message (
  id uuid primary key,
  conversation_id uuid not null references conversation,
  author_id uuid not null references person,
  body text not null check (length(body) between 1 and 8000),
  at timestamptz not null
);
create index message_conversation on message (conversation_id, at);

alter table notice drop constraint notice_kind_check;
alter table notice add constraint notice_kind_check check (kind in ('announcement', 'reply', 'returned', 'message'));
alter table notice_choice drop constraint notice_choice_kind_check;
alter table notice_choice add constraint notice_choice_kind_check check (kind in ('announcement', 'reply', 'returned', 'message'));

grant select, insert, update, delete on conversation, conversation_person, message to rosemary_app;
