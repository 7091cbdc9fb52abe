-- Who works on jobs and messages: by a lease with a token that lasts as long as signs of life come.
create table leases (
  token text primary key,
  until timestamptz not null
);
alter table jobs add column lease text;
-- How often it went wrong in a row; `tries` counts how often it was taken, which says nothing for long work.
alter table jobs add column failures int not null default 0;

-- A launch can stand still: of the service's doing, until then, or a person's.
alter table launches drop constraint launches_state_check;
alter table launches add constraint launches_state_check
  check (state in ('scheduled', 'sending', 'paused', 'done', 'cancelled'));
alter table launches add column pause text;
alter table launches add column pause_reason text;
alter table launches add column paused_at timestamptz;
alter table launches add column resume_at timestamptz;
-- Waits for the service so far, with no message taken in between.
alter table launches add column waits int not null default 0;
-- Somebody has said that so many bounces are all right.
alter table launches add column bounces_allowed boolean not null default false;
-- Up to which contact the readers are written down; null once all are.
alter table launches add column readers_to bigint;
drop index launches_on_its_way;
create unique index launches_on_its_way on launches (campaign_id)
  where state in ('scheduled', 'sending', 'paused');

alter table recipients drop constraint recipients_state_check;
alter table recipients add constraint recipients_state_check check (state in
  ('waiting', 'claimed', 'handed', 'accepted', 'bounced', 'refused', 'deferred', 'held', 'unsure', 'left', 'cancelled'));
alter table recipients add column lease text;
-- It bounced, but there may well be such a mailbox.
alter table recipients add column soft boolean not null default false;
-- `tries` counts what the reader's mailbox put off.
update recipients set tries = greatest(tries - 1, 0) where state = 'waiting';

-- What points at a row that goes is found without reading everything.
create index recipients_contact on recipients (contact_id, id);
create index events_recipient on events (recipient_id) where recipient_id is not null;
create index events_campaign on events (campaign_id);
create index sessions_member on sessions (member_id);
create index sign_in_links_member on sign_in_links (member_id);
create index campaigns_document on campaigns (document_id);
create index campaigns_topic on campaigns (topic_id);
create index templates_document on templates (document_id);
create index test_sends_campaign on test_sends (campaign_id);
create index test_sends_read_as on test_sends (read_as);
create index topic_choices_topic on topic_choices (topic_id);
create index launches_topic on launches (topic_id);
create index consents_topic on consents (topic_id);
create index signup_forms_list on signup_forms (list_id);
create index signups_form on signups (form_id);

-- Up to which row of its file an import is taken in.
alter table imports add column applied_to int not null default -1;
create index outbox_receiver on outbox_messages (lower(to_address));
