-- What readers can choose to get. Names and words by language: {"en": "…", "fr": "…"}.
create table topics (
  id text primary key,
  name jsonb not null,
  about jsonb not null default '{}',
  position int not null,
  created_at timestamptz not null
);
-- Who has said about a topic what they want; who has said nothing gets it.
create table topic_choices (
  contact_id bigint not null references contacts on delete cascade,
  topic_id text not null references topics on delete cascade,
  wants boolean not null,
  at timestamptz not null,
  primary key (contact_id, topic_id)
);
alter table campaigns add column topic_id text references topics on delete set null;
alter table launches add column topic_id text references topics on delete set null;
-- When somebody said yes or no, to what words, and where.
create table consents (
  id bigint generated always as identity primary key,
  contact_id bigint not null references contacts on delete cascade,
  given boolean not null,
  topic_id text references topics on delete set null,
  source text not null,
  wording text not null,
  at timestamptz not null
);
create index consents_contact on consents (contact_id, at);
-- Forms to sign up by, and who has asked and not confirmed yet.
create table signup_forms (
  id text primary key,
  name text not null,
  language text not null,
  list_id text references lists on delete set null,
  title text not null,
  wording text not null,
  fields jsonb not null default '[]',
  topics jsonb not null default '[]',
  created_at timestamptz not null
);
create table signups (
  token_hash text primary key,
  form_id text not null references signup_forms on delete cascade,
  email text not null,
  values jsonb not null,
  topics jsonb not null,
  wording text not null,
  at timestamptz not null,
  expires_at timestamptz not null,
  confirmed_at timestamptz
);
create index signups_email on signups (email, at);
