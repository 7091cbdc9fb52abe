-- Whoever confirmed a sign-up, and the email in which they had clicked last before they asked.
alter table signups add column contact_id bigint references contacts on delete set null,
  add column launch_id text references launches on delete set null;
create index signups_launch on signups (launch_id) where launch_id is not null;
create index signups_contact on signups (contact_id) where contact_id is not null;
