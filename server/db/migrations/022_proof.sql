-- The versions of an email that somebody has looked at, each by the exact state in which they saw it.
create table looked_at (
  campaign_id text not null references campaigns on delete cascade,
  state text not null,
  member_id text references members on delete set null,
  at timestamptz not null,
  primary key (campaign_id, state)
);
create index looked_at_member on looked_at (member_id);
