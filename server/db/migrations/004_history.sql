-- What an edit did, in words; null for edits from before.
alter table edits add column words text;
-- Edits that are one step for the person (words typed in one go) share the number of the first of them.
alter table edits add column step int;
update edits set step = seq;
alter table edits alter column step set not null;

-- States of a document one can go back to: named by a person, or kept before a big step.
create table moments (
  id text primary key,
  document_id text not null references documents on delete cascade,
  seq int not null,
  name text not null,
  automatic boolean not null,
  member_id text not null,
  at timestamptz not null
);
create index moments_document on moments (document_id, seq);
