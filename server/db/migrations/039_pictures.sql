-- Images in folders and with labels; what they look like, what stays in sight, and what they were made from.
create table picture_folders (
  id text primary key,
  name text not null,
  created_at timestamptz not null
);
create unique index picture_folders_name on picture_folders (lower(name));

alter table pictures
  add column folder_id text references picture_folders (id) on delete set null,
  add column labels text[] not null default '{}',
  add column alt text not null default '',
  add column decorative boolean not null default false,
  -- Per cent from the left and the top; null for the middle.
  add column focus jsonb,
  -- What it looks like; null where nobody has looked.
  add column likeness bigint,
  -- The file of what was kept of a larger original.
  add column master text,
  add column made_from text references pictures (id) on delete set null,
  add column recipe jsonb,
  -- The image that was put in its place everywhere, when, and by whom.
  add column replaced_by text,
  add column replaced_at timestamptz,
  add column replaced_who text;
create index pictures_folder on pictures (folder_id);
create index pictures_labels on pictures using gin (labels);
create index pictures_made_from on pictures (made_from);
