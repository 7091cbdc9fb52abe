-- Files that were deleted are offered no more; emails that were sent go on leading to them.
alter table files rename column file to id;
alter table files add column deleted_at timestamptz;
create index files_newest on files (created_at desc, id) where deleted_at is null;
