-- A course comes to its end: archived, it is read and no longer changed; deleted, nobody reaches it until an administrator puts it back.
alter table course add column archived_at timestamptz;
alter table course add column removed_at timestamptz;
