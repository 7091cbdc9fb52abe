-- The links of a launch in the order of their numbers, as it was sent: clicks are counted by them, and a
-- later renderer may meet the links in another order. Null for launches from before.
alter table launches add column links jsonb;
