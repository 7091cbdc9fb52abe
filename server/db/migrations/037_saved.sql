-- Blocks and bands that somebody saved, to be put into other emails as copies.
create table saved_blocks (
  id text primary key,
  name text not null,
  kind text not null,
  body text not null,
  created_at timestamptz not null
);
create index saved_blocks_created on saved_blocks (created_at desc, id);
