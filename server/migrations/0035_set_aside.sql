-- A piece of background work that was tried often enough is set aside: it has no next try until somebody asks for one.
alter table job_failure alter column next_at drop not null;
