-- Tests of earlier days, as those of today: a message for each address.
insert into test_messages (test_id, address, contact_id, failed)
select t.id, a.address, t.read_as,
  (select substr(f.line, length(a.address) + 3) from jsonb_array_elements_text(t.failed) f(line)
    where starts_with(f.line, a.address || ':') limit 1)
from test_sends t, jsonb_array_elements_text(t.addresses) a(address)
where not exists (select 1 from test_messages m where m.test_id = t.id);
alter table test_sends drop column addresses, drop column read_as, drop column failed;

-- Those who look at a campaign's email by a link of their own, without an account.
create table reviewers (
  id bigint generated always as identity primary key,
  campaign_id text not null references campaigns on delete cascade,
  name text not null,
  email text,
  -- Nothing is scheduled before they have approved it.
  required boolean not null,
  -- What the link is signed with: without it there is none.
  nonce text not null,
  member_id text references members on delete set null,
  created_at timestamptz not null,
  expires_at timestamptz not null,
  revoked_at timestamptz
);
create index reviewers_campaign on reviewers (campaign_id);
create index reviewers_member on reviewers (member_id);

-- What they decided, about which state.
create table decisions (
  id bigint generated always as identity primary key,
  reviewer_id bigint not null references reviewers on delete cascade,
  approves boolean not null,
  note text not null,
  seq int not null,
  content text not null,
  audience text not null,
  live jsonb not null,
  at timestamptz not null
);
create index decisions_reviewer on decisions (reviewer_id);

-- What is said about the email, by those who look and by the team; at a node, or about the whole.
create table comments (
  id bigint generated always as identity primary key,
  campaign_id text not null references campaigns on delete cascade,
  reviewer_id bigint references reviewers on delete set null,
  member_id text references members on delete set null,
  author text not null,
  reply_to bigint references comments on delete cascade,
  node text,
  words text not null,
  at timestamptz not null,
  resolved_at timestamptz
);
create index comments_campaign on comments (campaign_id);
create index comments_reviewer on comments (reviewer_id);
create index comments_member on comments (member_id);
create index comments_reply_to on comments (reply_to);

-- What was answered where links lead.
create table link_answers (
  address text primary key,
  -- Why there is nothing; null where there is something.
  problem text,
  gone boolean not null,
  -- Where it led in the end, and how often it led on.
  led_to text,
  redirects int not null,
  at timestamptz not null
);
create index link_answers_at on link_answers (at);
