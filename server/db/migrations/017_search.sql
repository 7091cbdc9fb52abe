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

-- Contacts are searched over all their texts, which are folded when they are written (core/fields/fold.ts). Their
-- words are gathered a moment later (server/store/contact-words.ts); until then they are read where they stand.
create function folded_words(text) returns tsvector immutable parallel safe language sql as $$
  select to_tsvector('simple'::regconfig,
    translate(left($1, 20000), '@.-_+/\,;:()[]{}<>|&!*''"#' || chr(31), '                          '))
$$;
create function folded_query(text) returns tsquery immutable parallel safe language sql as $$
  select to_tsquery('simple'::regconfig, string_agg('''' || word || ''':*', ' & '))
  from regexp_split_to_table(btrim(
    translate($1, '@.-_+/\,;:()[]{}<>|&!*''"#' || chr(31), '                          ')), '\s+') word
  where word <> ''
$$;
alter table contacts add column words tsvector;
create index contacts_words on contacts using gin (words);
create index contacts_unread on contacts (id) where words is null;
create function contact_changed() returns trigger language plpgsql as $$
begin
  if new.words is not distinct from old.words then new.words := null; end if;
  return new;
end $$;
create trigger contact_changed before update on contacts
  for each row when (old.held is not distinct from new.held) execute function contact_changed();
