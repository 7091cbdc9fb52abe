-- Sources that are read from no address: catalogues filled by hand or from files.
alter table sources alter column address drop not null;
-- A second address of a catalogue, from which stock and prices alone are read; and the secret with which a shop signs
-- what it tells of views and orders.
alter table sources add column stock_address text;
alter table sources add column secret text;

-- Readers look at products before they buy them.
alter table events drop constraint events_kind_check;
alter table events add constraint events_kind_check check
  (kind in ('accepted', 'bounced', 'opened', 'clicked', 'unsubscribed', 'bought', 'viewed', 'answered'));
-- What somebody did with things, the newest first.
create index events_deeds on events (contact_id, at desc) where kind in ('bought', 'viewed');
-- What a shop has told, so that telling it twice does no harm.
create table shop_messages (source_id text not null, id text not null, at timestamptz not null,
  primary key (source_id, id));

-- The items that campaigns have sent: those that readers had of their own with how many it was, the others for all.
create table sent_items (
  campaign_id text not null references campaigns on delete cascade,
  source_id text not null,
  item_key text not null,
  readers integer,
  at timestamptz not null,
  primary key (source_id, item_key, campaign_id)
);
create index sent_items_campaign on sent_items (campaign_id);

-- What an import adds has no key of its own, and comes when it comes; rules name the title as they do fields.
do $$
declare s record;
begin
  for s in select id from sources loop
    execute format('alter table %I alter column item_key set default gen_random_uuid()::text,
      alter column published_at set default now(),
      add column f_item_title text generated always as (name) stored,
      add column x_item_title text collate "C" generated always as (name_folded) stored', 'records_' || s.id);
  end loop;
end $$;

-- How a launch takes its items when it starts: as they were looked at or as they are then, and what change stops it;
-- and when they were looked at again.
alter table launches add column items_plan jsonb not null
  default '{"take": "kept", "stopAt": ["price", "stock", "gone", "past"]}';
alter table launches add column items_checked timestamptz;
alter table launches drop constraint if exists launches_pause_check;
