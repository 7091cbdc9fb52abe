-- Files that go with a campaign's messages; a launch keeps to those it froze.
create table attachments (
  id text primary key,
  -- In the order they came.
  place bigint generated always as identity,
  campaign_id text not null references campaigns on delete cascade,
  name text not null,
  type text not null,
  bytes int not null,
  content bytea not null,
  created_at timestamptz not null,
  -- Taken out of the campaign; launches that froze it have it still.
  removed_at timestamptz
);
create index attachments_campaign on attachments (campaign_id);
alter table launches add column attachments jsonb not null default '[]';
