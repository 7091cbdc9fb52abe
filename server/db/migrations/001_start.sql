-- People of the team, and how they sign in.
create table members (
  id text primary key,
  name text not null,
  email text not null unique,
  role text not null check (role in ('owner', 'designer', 'marketer', 'reviewer')),
  -- scrypt, as salt:hash in base64url; null until the person has chosen a password
  password text,
  created_at timestamptz not null
);
create table sessions (
  id text primary key,
  member_id text not null references members on delete cascade,
  created_at timestamptz not null,
  expires_at timestamptz not null
);
create table sign_in_links (
  token_hash text primary key,
  member_id text not null references members on delete cascade,
  expires_at timestamptz not null,
  used_at timestamptz
);

create table settings (key text primary key, value jsonb not null);

-- People the emails are for.
create table fields (
  id text primary key,
  label text not null,
  type text not null check (type in ('text', 'number', 'date', 'choice')),
  options jsonb not null default '[]',
  position int not null
);
create table contacts (
  id bigint generated always as identity primary key,
  email text not null,
  email_folded text not null unique,
  values jsonb not null default '{}',
  -- texts of values, folded for comparison (core/rules/fold.ts)
  folded jsonb not null default '{}',
  created_at timestamptz not null
);
-- Addresses that get nothing, whatever lists they are on.
create table suppressions (
  email_folded text primary key,
  reason text not null check (reason in ('unsubscribed', 'bounced')),
  at timestamptz not null
);
create table lists (id text primary key, name text not null, created_at timestamptz not null);
create table list_members (
  list_id text not null references lists on delete cascade,
  contact_id bigint not null references contacts on delete cascade,
  primary key (list_id, contact_id)
);
create index list_members_contact on list_members (contact_id);
create table segments (
  id text primary key,
  name text not null,
  rule jsonb not null,
  created_at timestamptz not null
);

-- Documents and every edit made to them. `body` is canonical JSON, kept as text.
create table documents (
  id text primary key,
  seq int not null default 0,
  body text not null,
  updated_at timestamptz not null
);
create table edits (
  document_id text not null references documents on delete cascade,
  seq int not null,
  envelope_id text not null,
  member_id text not null,
  tab text not null,
  at timestamptz not null,
  edit text not null,
  inverse text not null,
  -- the edit this one takes back, and the edit that took this one back
  undoes int,
  undone_by int,
  primary key (document_id, seq),
  unique (document_id, envelope_id)
);
create index edits_member on edits (document_id, member_id, seq);

create table campaigns (
  id text primary key,
  name text not null,
  document_id text not null references documents,
  -- {"include": [{"kind": "list", "id": "…"}], "exclude": […]}
  audience jsonb not null,
  created_at timestamptz not null,
  updated_at timestamptz not null
);
create table templates (
  id text primary key,
  name text not null,
  about text not null,
  document_id text not null references documents,
  created_at timestamptz not null
);

create table pictures (
  id text primary key,
  file text not null,
  name text not null,
  width int not null,
  height int not null,
  bytes int not null,
  created_at timestamptz not null
);

-- One sending of a campaign: everything it needs, frozen when it was scheduled.
create table launches (
  id text primary key,
  campaign_id text not null references campaigns on delete cascade,
  state text not null check (state in ('scheduled', 'sending', 'done', 'cancelled')),
  send_at timestamptz not null,
  zone text not null,
  document text not null,
  audience jsonb not null,
  -- the rules of its segments, as they were: a change after scheduling needs a new scheduling
  segments jsonb not null,
  surroundings jsonb not null,
  member_id text not null,
  created_at timestamptz not null,
  started_at timestamptz,
  finished_at timestamptz
);
create index launches_campaign on launches (campaign_id);
-- At most one launch of a campaign is on its way.
create unique index launches_on_its_way on launches (campaign_id) where state in ('scheduled', 'sending');
create table recipients (
  id bigint generated always as identity primary key,
  launch_id text not null references launches on delete cascade,
  contact_id bigint references contacts on delete set null,
  email text not null,
  state text not null default 'waiting' check (state in
    ('waiting', 'claimed', 'handed', 'accepted', 'bounced', 'deferred', 'held', 'unsure')),
  -- what the message was merged with, from the first claim on
  values jsonb,
  tries int not null default 0,
  next_try_at timestamptz not null,
  reply text,
  settled_at timestamptz,
  unique (launch_id, contact_id)
);
create index recipients_state on recipients (launch_id, state, id);

-- Everything that happened with readers.
create table events (
  id bigint generated always as identity primary key,
  kind text not null check (kind in ('accepted', 'bounced', 'opened', 'clicked', 'unsubscribed')),
  at timestamptz not null,
  contact_id bigint references contacts on delete set null,
  launch_id text references launches on delete cascade,
  recipient_id bigint references recipients on delete cascade,
  link int,
  data jsonb not null default '{}'
);
create index events_launch on events (launch_id, kind, at);
create index events_contact on events (contact_id, at);

create table jobs (
  id bigint generated always as identity primary key,
  kind text not null,
  payload jsonb not null,
  run_at timestamptz not null,
  state text not null default 'waiting' check (state in ('waiting', 'running', 'done', 'failed')),
  tries int not null default 0,
  error text
);
create index jobs_due on jobs (run_at) where state = 'waiting';

create table test_sends (
  id bigint generated always as identity primary key,
  campaign_id text not null references campaigns on delete cascade,
  addresses jsonb not null,
  read_as bigint references contacts on delete set null,
  failed jsonb not null default '[]',
  member_id text not null,
  at timestamptz not null
);

-- The outbox: what the mail service that ships with the application was handed.
create table outbox_messages (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  from_address text not null,
  to_address text not null,
  subject text not null,
  message_id text not null,
  outcome text not null check (outcome in ('accepted', 'refused', 'deferred')),
  bytes int not null,
  -- deflated; null for what was refused before it was handed over
  source bytea
);
create index outbox_message_id on outbox_messages (message_id);
