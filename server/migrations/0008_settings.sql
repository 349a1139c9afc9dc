-- What a course says of itself, who may enrol themselves and when, and sections that come and go.

alter table course add column description text not null default '' check (length(description) <= 4000);
alter table course add column is_public boolean not null default false;
-- While this window is open, whoever is signed in may enrol themselves; no beginning said means that nobody may.
alter table course add column enrols_from timestamptz;
alter table course add column enrols_until timestamptz;
alter table course add constraint course_enrols_in_order check (enrols_until is null or enrols_from is null or enrols_until > enrols_from);

-- A section joined to another is empty and out of sight; what points to it stays.
alter table section add column removed_at timestamptz;
