-- Sources of items: each keeps its items in a table of records of its own.
create table sources (
  id text primary key references record_tables (id) on delete cascade,
  kind text not null,
  -- Where it is read from, and the page it belongs to.
  address text not null unique,
  home text not null default '',
  etag text,
  last_modified text,
  read_at timestamptz,
  changed_at timestamptz,
  -- How often it went wrong in a row, and what was wrong the last time.
  failures int not null default 0,
  problem text,
  created_at timestamptz not null
);

-- Pictures that came with items are kept like all others, and stand in no list of those that people put in.
alter table pictures add column of_items boolean not null default false;
