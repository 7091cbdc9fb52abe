-- A/B tests: how a campaign's email is tried in variants. A variant with content of its own has it in a campaign that
-- belongs to the first and is listed nowhere.
alter table campaigns add column split jsonb, add column variant_of text references campaigns on delete cascade;
create index campaigns_variant_of on campaigns (variant_of) where variant_of is not null;

-- What a launch froze of it, who was drawn, and which variant goes to the rest; null where nobody has said.
alter table launches add column split jsonb, add column drawn_at timestamptz,
  add column winner int, add column decided_at timestamptz, add column decided_by text;
create table launch_variants (
  launch_id text not null references launches on delete cascade,
  variant int not null,
  document text not null,
  surroundings jsonb not null,
  links jsonb not null,
  primary key (launch_id, variant)
);

-- Which variant somebody gets, and whether it was tried on them.
alter table recipients add column variant int not null default 0, add column tested boolean not null default false;
alter table recipients drop constraint recipients_state_check;
alter table recipients add constraint recipients_state_check check (state in
  ('rest', 'control', 'waiting', 'claimed', 'handed', 'accepted', 'bounced', 'refused', 'deferred', 'held', 'unsure',
   'left', 'cancelled'));
create index recipients_tested on recipients (launch_id, variant) where tested;

-- A machine did it: a scanner that follows every link, a program that fetches pictures before anybody reads.
alter table events add column machine boolean not null default false;
drop index events_kind;
create index events_kind on events (kind, at) include (contact_id, launch_id, machine);
-- People who have bought something after they had clicked.
alter table launch_totals add column ordered int not null default 0;

create or replace function count_events() returns trigger language plpgsql as $$
begin
  insert into launch_totals as t (launch_id, accepted, bounced, opened, clicked, unsubscribed, complained, ordered)
  select launch_id,
    count(*) filter (where what = 'accepted'), count(*) filter (where what = 'bounced'),
    count(*) filter (where what = 'opened'), count(*) filter (where what = 'clicked'),
    count(*) filter (where what = 'unsubscribed'), count(*) filter (where what = 'complained'),
    count(*) filter (where what = 'bought')
  from (
    select distinct a.launch_id, a.recipient_id, k.what
    from added a cross join lateral (values (a.kind), (case a.kind when 'clicked' then 'opened' end)) k (what)
    where a.launch_id is not null and a.recipient_id is not null and k.what is not null and not a.machine
      and not exists (select 1 from events e
        where e.recipient_id = a.recipient_id and e.id < (select min(id) from added) and not e.machine
          and (e.kind = k.what or (k.what = 'opened' and e.kind = 'clicked')))
  ) firsts
  group by launch_id
  on conflict (launch_id) do update set accepted = t.accepted + excluded.accepted,
    bounced = t.bounced + excluded.bounced, opened = t.opened + excluded.opened,
    clicked = t.clicked + excluded.clicked, unsubscribed = t.unsubscribed + excluded.unsubscribed,
    complained = t.complained + excluded.complained, ordered = t.ordered + excluded.ordered;
  return null;
end $$;

-- What turns out to be a machine's afterwards is taken from the people again.
create function uncount_machines() returns trigger language plpgsql as $$
begin
  update launch_totals t set opened = t.opened - x.opened, clicked = t.clicked - x.clicked
  from (
    select c.launch_id,
      count(*) filter (where not exists (select 1 from events e where e.recipient_id = c.recipient_id
        and e.kind in ('opened', 'clicked') and not e.machine)) as opened,
      count(*) filter (where c.clicked and not exists (select 1 from events e where e.recipient_id = c.recipient_id
        and e.kind = 'clicked' and not e.machine)) as clicked
    from (
      select n.launch_id, n.recipient_id, bool_or(n.kind = 'clicked') as clicked
      from changed n join before b on b.id = n.id
      where n.machine and not b.machine and n.recipient_id is not null and n.kind in ('opened', 'clicked')
      group by n.launch_id, n.recipient_id
    ) c group by c.launch_id
  ) x where t.launch_id = x.launch_id;
  return null;
end $$;
create trigger events_uncounted after update on events
  referencing old table as before new table as changed for each statement execute function uncount_machines();

-- Whoever gets nothing, so that it can be compared, is none of the readers.
create or replace function count_readers() returns trigger language plpgsql as $$
begin
  new.readers := (select count(*) from recipients r
    where r.launch_id = new.id and r.state not in ('held', 'control'));
  return new;
end $$;
