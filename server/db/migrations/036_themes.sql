-- Themes that a house has beside the one of its new emails.
create table themes (
  id text primary key,
  body text not null,
  created_at timestamptz not null
);
