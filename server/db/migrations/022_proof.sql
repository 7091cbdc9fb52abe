-- The versions of an email that somebody has looked at, each by the exact state in which they saw it.
create table looked_at (
  campaign_id text not null references campaigns on delete cascade,
  state text not null,
  member_id text references members on delete set null,
  at timestamptz not null,
  primary key (campaign_id, state)
);
create index looked_at_member on looked_at (member_id);

-- Each message of a test, and when its receiver opened it: a test counts nowhere else.
create table test_messages (
  id bigint generated always as identity primary key,
  test_id bigint not null references test_sends on delete cascade,
  address text not null,
  contact_id bigint references contacts on delete set null,
  failed text,
  opened_at timestamptz
);
create index test_messages_test on test_messages (test_id);
create index test_messages_contact on test_messages (contact_id);
-- Those who are sent tests together.
create table test_groups (name text primary key, addresses jsonb not null);
