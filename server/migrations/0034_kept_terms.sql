-- What a running attempt keeps of the terms it began under, where they were changed since: fields of the quiz's setting, and when it closes.
alter table quiz_attempt add column kept jsonb not null default '{}';
