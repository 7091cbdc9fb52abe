-- Files of people: how each is read, how far it is, and what came of it.
create table imports (
  id text primary key,
  name text not null,
  bytes bigint not null,
  state text not null check (state in
    ('uploaded', 'checking', 'checked', 'applying', 'done', 'undoing', 'undone', 'failed')),
  -- core/import/options.ts; null until somebody has said how it is read
  options jsonb,
  -- the names of the columns, folded: the next file with the same ones is read in the same way
  columns jsonb not null default '[]',
  -- fields that are made when it is applied
  new_fields jsonb not null default '[]',
  rows_read int not null default 0,
  added int not null default 0,
  changed int not null default 0,
  same int not null default 0,
  refused int not null default 0,
  problem text,
  member_id text not null,
  created_at timestamptz not null,
  done_at timestamptz
);
create index imports_created on imports (created_at);
-- Rows that could not be taken, as they were, with the reason.
create table import_refused (
  import_id text not null references imports on delete cascade,
  line int not null,
  reason text not null,
  cells jsonb not null,
  primary key (import_id, line)
);
-- What an import did, for taking it back: before is null for a person it added. Without references: checking
-- them for each of a hundred thousand rows would take longer than all the rest, and memory for every row.
create table import_changes (
  import_id text not null,
  contact_id bigint not null,
  before jsonb,
  listed boolean not null default false,
  primary key (import_id, contact_id)
);
