-- One way to search by the beginnings of words, without regard to case, accents and what stands between words.
create function search_text(text) returns text immutable parallel safe language sql as $$
  select regexp_replace(
    lower(regexp_replace(normalize(left($1, 20000), NFKD), '[\u0300-\u036f]', '', 'g')),
    '[^[:alnum:]]+', ' ', 'g')
$$;
create function search_words(text) returns tsvector immutable parallel safe language sql as $$
  select to_tsvector('simple'::regconfig, public.search_text($1))
$$;
-- Every word that is typed begins some word; null where none is typed.
create function search_query(text) returns tsquery immutable parallel safe language sql as $$
  select to_tsquery('simple'::regconfig, string_agg(word || ':*', ' & '))
  from regexp_split_to_table(btrim(public.search_text($1)), ' ') word where word <> ''
$$;

create index lists_words on lists using gin (search_words(name));
create index segments_words on segments using gin (search_words(name));
create index campaigns_words on campaigns using gin (search_words(name));
create index templates_words on templates using gin (search_words(name));
create index pictures_words on pictures using gin (search_words(name));
create index pictures_latest on pictures (created_at desc, id);
