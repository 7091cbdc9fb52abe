-- A row that was imported without a cell that could not be read; and the fields that an import made.
alter table import_refused add column taken boolean not null default false;
alter table imports add column left_out int not null default 0;
alter table imports add column made_fields text[] not null default '{}';
