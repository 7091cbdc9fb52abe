-- The template a campaign was started from, and the state of it.
alter table campaigns add column template_id text references templates on delete set null;
alter table campaigns add column template_seq int;
create index campaigns_template on campaigns (template_id) where template_id is not null;
