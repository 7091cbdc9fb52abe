-- Messages of the outbox that the readers which ship with the application have read; those from before are.
alter table outbox_messages add column read boolean not null default true;
alter table outbox_messages alter column read set default false;
create index outbox_unread on outbox_messages (id) where not read;
