-- A sigma at the end of a word folds as any other: what was folded before is brought in line, so that rules and
-- searches compare the same.
do $$
declare one record;
begin
  for one in
    select table_name, column_name from information_schema.columns
    where table_schema = current_schema() and data_type = 'text'
      and (column_name like 'x\_%' or column_name in ('email_folded', 'name_folded'))
  loop
    execute format(
      'update %I set %I = replace(%I, ''ς'', ''σ'') where position(''ς'' in %I) > 0',
      one.table_name, one.column_name, one.column_name, one.column_name);
  end loop;
end $$;
