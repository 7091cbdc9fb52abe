-- How a launch is spread over time, and when it begins: before it leaves, where clocks elsewhere show its time earlier.
alter table launches add column pace jsonb, add column starts_at timestamptz;
-- When a reader's message was due first: it bears that date however often it is tried.
alter table recipients add column due_at timestamptz;
