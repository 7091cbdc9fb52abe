-- Derived tags (core/derived): values chosen by rules.
create table derived_tags (
  id text primary key,
  name text not null,
  body jsonb not null,
  created_at timestamptz not null
);
