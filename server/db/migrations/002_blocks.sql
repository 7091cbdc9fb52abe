-- Whether a picture's ground is transparent somewhere: such a picture may want a backing in the dark.
alter table pictures add column alpha boolean not null default false;
-- The version of the document model an edit was made in; undo brings it to this one.
alter table edits add column schema_version int not null default 1;
