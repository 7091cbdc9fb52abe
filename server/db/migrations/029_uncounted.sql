-- Whoever does not want to be counted: their links lead straight to where they lead, and nothing tells what they opened.
alter table contacts add column uncounted boolean not null default false;
