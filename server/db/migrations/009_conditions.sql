-- Which of the email's conditions held for each reader when the launch started, a "1" for each.
alter table recipients add column bits text not null default '';
-- The conditions the bits stand for, as canonical rules in their order.
alter table launches add column conditions jsonb not null default '[]';
