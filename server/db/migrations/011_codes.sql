-- Code rolls: lists of unique codes, of which each reader of a launch gets one.
create table code_rolls (
  id text primary key,
  name text not null,
  -- what stands in a message where none is left
  empty_text text not null default '',
  warn_at int not null default 0,
  expires text,
  -- codes may be given more than once
  again boolean not null default false,
  created_at timestamptz not null
);
create table codes (
  roll_id text not null references code_rolls on delete cascade,
  n bigint generated always as identity,
  code text not null,
  launch_id text,
  contact_id bigint,
  taken_at timestamptz,
  primary key (roll_id, n),
  unique (roll_id, code)
);
create index codes_free on codes (roll_id, n) where launch_id is null;
create unique index codes_taken on codes (launch_id, contact_id, roll_id) where launch_id is not null;
