-- Who last said what a saved block says: its change in emails is theirs.
alter table saved_blocks add column changed_by text;
