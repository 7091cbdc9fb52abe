-- What came of a launch, counted as it happens: a page that lists a hundred launches reads a hundred rows.
create table launch_totals (
  launch_id text primary key references launches (id) on delete cascade,
  -- People, each counted once. A click counts as an open too.
  accepted int not null default 0,
  bounced int not null default 0,
  opened int not null default 0,
  clicked int not null default 0,
  unsubscribed int not null default 0
);

create function count_events() returns trigger language plpgsql as $$
begin
  insert into launch_totals as t (launch_id, accepted, bounced, opened, clicked, unsubscribed)
  select launch_id,
    count(*) filter (where what = 'accepted'), count(*) filter (where what = 'bounced'),
    count(*) filter (where what = 'opened'), count(*) filter (where what = 'clicked'),
    count(*) filter (where what = 'unsubscribed')
  from (
    select distinct a.launch_id, a.recipient_id, k.what
    from added a cross join lateral (values (a.kind), (case a.kind when 'clicked' then 'opened' end)) k (what)
    where a.launch_id is not null and a.recipient_id is not null and k.what is not null
      and not exists (select 1 from events e
        where e.recipient_id = a.recipient_id and e.id < (select min(id) from added)
          and (e.kind = k.what or (k.what = 'opened' and e.kind = 'clicked')))
  ) firsts
  group by launch_id
  on conflict (launch_id) do update set accepted = t.accepted + excluded.accepted,
    bounced = t.bounced + excluded.bounced, opened = t.opened + excluded.opened,
    clicked = t.clicked + excluded.clicked, unsubscribed = t.unsubscribed + excluded.unsubscribed;
  return null;
end $$;
create trigger events_counted after insert on events
  referencing new table as added for each statement execute function count_events();

insert into launch_totals
select launch_id,
  count(distinct recipient_id) filter (where kind = 'accepted'),
  count(distinct recipient_id) filter (where kind = 'bounced'),
  count(distinct recipient_id) filter (where kind in ('opened', 'clicked')),
  count(distinct recipient_id) filter (where kind = 'clicked'),
  count(distinct recipient_id) filter (where kind = 'unsubscribed')
from events where launch_id is not null and recipient_id is not null group by launch_id;

-- How many readers a launch has, once nothing of it waits any more.
alter table launches add column readers int;
update launches l set readers =
  (select count(*) from recipients r where r.launch_id = l.id and r.state <> 'held')
where state = 'done';
create function count_readers() returns trigger language plpgsql as $$
begin
  new.readers := (select count(*) from recipients r where r.launch_id = new.id and r.state <> 'held');
  return new;
end $$;
create trigger launches_counted before update of state on launches
  for each row when (new.state = 'done') execute function count_readers();

create index campaigns_updated on campaigns (updated_at);
create index launches_latest on launches (campaign_id, created_at desc) where state <> 'cancelled';
