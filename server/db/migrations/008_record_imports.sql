-- Files go to contacts or to a table of records; changes name a row of that table.
alter table imports add column table_id text not null default 'contacts';
alter table import_changes rename column contact_id to row_id;
