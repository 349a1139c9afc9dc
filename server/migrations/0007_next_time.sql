-- A remark on an item for whoever carries the course forward.
alter table item add column next_note text not null default '' check (length(next_note) <= 2000);
