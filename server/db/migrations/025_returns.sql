-- Complaints come back as reports; who has complained gets nothing.
alter table suppressions drop constraint suppressions_reason_check, add constraint suppressions_reason_check
  check (reason in ('unsubscribed', 'bounced', 'blocked', 'complained'));
alter table events drop constraint events_kind_check, add constraint events_kind_check check
  (kind in ('accepted', 'bounced', 'opened', 'clicked', 'unsubscribed', 'complained', 'bought', 'viewed', 'answered'));
alter table launch_totals add column complained int not null default 0;

create or replace function count_events() returns trigger language plpgsql as $$
begin
  insert into launch_totals as t (launch_id, accepted, bounced, opened, clicked, unsubscribed, complained)
  select launch_id,
    count(*) filter (where what = 'accepted'), count(*) filter (where what = 'bounced'),
    count(*) filter (where what = 'opened'), count(*) filter (where what = 'clicked'),
    count(*) filter (where what = 'unsubscribed'), count(*) filter (where what = 'complained')
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
    clicked = t.clicked + excluded.clicked, unsubscribed = t.unsubscribed + excluded.unsubscribed,
    complained = t.complained + excluded.complained;
  return null;
end $$;
