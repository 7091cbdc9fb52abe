-- The subject of a launch by itself, as JSON: many are read at once, and emails are large. A document may hold what
-- jsonb does not (NUL, lone surrogates); of one that went out so before, the subject is not compared.
alter table launches add column subject text;
update launches set subject = (document::jsonb #> '{root,props,envelope,subject}')::text
  where document !~* '\\u(0000|d[89a-f])';
