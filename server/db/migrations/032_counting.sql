-- Counting asks for the events of a handful of recipients. Its plan is made while there are few events and kept while they
-- become many: it is to go by the recipient from the start, not through all events, nor through all before an id.
create or replace function count_events() returns trigger language plpgsql set enable_seqscan = off as $$
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
        where e.recipient_id = a.recipient_id and e.id + 0 < (select min(id) from added) and not e.machine
          and (e.kind = k.what or (k.what = 'opened' and e.kind = 'clicked')))
  ) firsts
  group by launch_id
  on conflict (launch_id) do update set accepted = t.accepted + excluded.accepted,
    bounced = t.bounced + excluded.bounced, opened = t.opened + excluded.opened,
    clicked = t.clicked + excluded.clicked, unsubscribed = t.unsubscribed + excluded.unsubscribed,
    complained = t.complained + excluded.complained, ordered = t.ordered + excluded.ordered;
  return null;
end $$;

alter function uncount_machines() set enable_seqscan = off;
