-- Files that links in emails lead to, named after their content.
create table files (
  file text primary key,
  short text not null unique,
  name text not null,
  bytes integer not null,
  created_at timestamptz not null
);
create index files_words on files using gin (search_words(name));
