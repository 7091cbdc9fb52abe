-- What was removed and can be put back for a while: the rows of each table, those that others hang on first.
create table removed (
  id text primary key,
  label text not null,
  removed_at timestamptz not null
);
create table removed_rows (
  removed_id text not null references removed (id) on delete cascade,
  n int not null,
  table_name text not null,
  -- Set where rows stayed and only lost what pointed here: the column that pointed.
  loosened text,
  rows jsonb not null,
  primary key (removed_id, n)
);

-- A campaign that is deleted keeps its launches: links in what was sent go on leading somewhere.
alter table campaigns add column deleted_at timestamptz;
alter table campaigns add column archived_at timestamptz;
create table labels (
  id text primary key,
  name text not null,
  name_folded text not null unique
);
create table campaign_labels (
  campaign_id text not null references campaigns (id) on delete cascade,
  label_id text not null references labels (id) on delete cascade,
  primary key (campaign_id, label_id)
);
create index campaign_labels_label on campaign_labels (label_id);

-- Who leaves the team signs in no more; what they did goes on bearing their name.
alter table members add column removed_at timestamptz;
