-- What somebody brought along to start a campaign from, until it has become one.
create table arrivals (
  id text primary key,
  member_id text not null references members on delete cascade,
  name text not null,
  -- `foreign`: HTML to be taken apart; `own`: an email of Septima, in `document`.
  kind text not null,
  subject text not null default '',
  html text not null default '',
  draft boolean not null default false,
  document text,
  about text not null default '',
  category text not null default '',
  -- By their addresses in the HTML; null where they could not be had.
  pictures jsonb not null default '{}',
  tags jsonb not null default '[]',
  meanings jsonb not null default '{}',
  notes jsonb not null default '[]',
  created_at timestamptz not null
);
create index arrivals_member on arrivals (member_id);
create index arrivals_created on arrivals (created_at);
