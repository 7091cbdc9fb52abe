-- The hour of the day in which somebody reads, where a launch gives each reader theirs.
alter table recipients add column hour smallint;
