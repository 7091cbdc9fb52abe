-- Fonts of the house: files named after their content, with what each measures.
create table fonts (
  id text primary key,
  family text not null,
  measure jsonb not null,
  created_at timestamptz not null
);
