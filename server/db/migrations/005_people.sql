-- Fields belong to the contacts or to a table of records; each keeps its values in columns of its own:
-- f_ID as they are kept, and x_ID what is compared, where that is something else (core/fields).
alter table fields drop constraint fields_type_check;
alter table fields drop constraint fields_pkey;
alter table fields add column table_id text not null default 'contacts';
alter table fields add primary key (table_id, id);
-- For pointers: the table they lead to.
alter table fields add column target text;
alter table fields add column standard jsonb;
alter table fields add column format jsonb not null default '{}';
create table record_tables (id text primary key, name text not null, created_at timestamptz not null);

-- The identity of an address by the standards (core/fields/address.ts); `email_folded` is that without regard
-- to case and accents: what is compared, and what is held back.
alter table contacts add column email_key text collate "C";
update contacts set email_key = split_part(email, '@', 1) || '@' || lower(split_part(email, '@', 2));
alter table contacts alter column email_key set not null;
alter table contacts drop constraint contacts_email_folded_key;
alter table contacts alter column email_folded type text collate "C";
-- The folded form follows from the key: this one index finds by it and keeps keys apart.
create unique index contacts_address on contacts (email_folded, email_key);
-- The day they were added (UTC); and why nothing is sent to them, from `suppressions`.
alter table contacts add column added text collate "C";
update contacts set added = to_char(created_at at time zone 'UTC', 'YYYY-MM-DD');
alter table contacts alter column added set not null;
alter table contacts add column held text collate "C";
update contacts c set held = s.reason from suppressions s where s.email_folded = c.email_folded;
do $$
declare f record;
begin
  for f in select id, type from fields loop
    if f.type = 'number' then
      execute format('alter table contacts add column %I float8', 'f_' || f.id);
      execute format('update contacts set %I = case when jsonb_typeof(values -> %L) = ''number''
        then (values ->> %L)::float8 end', 'f_' || f.id, f.id, f.id);
    else
      execute format('alter table contacts add column %I text collate "C"', 'f_' || f.id);
      execute format('update contacts set %I = case when jsonb_typeof(values -> %L) = ''string''
        then nullif(values ->> %L, '''') end', 'f_' || f.id, f.id, f.id);
      if f.type <> 'date' then
        execute format('alter table contacts add column %I text collate "C"', 'x_' || f.id);
        execute format('update contacts set %I = nullif(folded ->> %L, '''')', 'x_' || f.id, f.id);
      end if;
    end if;
  end loop;
end $$;
alter table contacts drop column values;
alter table contacts drop column folded;
alter table suppressions drop constraint suppressions_reason_check;
alter table suppressions add constraint suppressions_reason_check
  check (reason in ('unsubscribed', 'bounced', 'blocked'));

-- Events know their campaign; purchases know the product and its category, answers the question and what was said.
alter table events drop constraint events_kind_check;
alter table events add constraint events_kind_check check
  (kind in ('accepted', 'bounced', 'opened', 'clicked', 'unsubscribed', 'bought', 'answered'));
alter table events add column campaign_id text references campaigns on delete cascade;
update events e set campaign_id = l.campaign_id from launches l where l.id = e.launch_id;
alter table events add column item text;
alter table events add column class text;
create index events_kind on events (kind, at) include (contact_id, launch_id);
-- What events are about: the products bought, the questions answered, with the categories and answers there are.
create table event_subjects (
  kind text not null check (kind in ('bought', 'answered')),
  id text not null,
  name text not null,
  classes jsonb not null default '[]',
  primary key (kind, id)
);
