-- What templates are for, and which of them somebody keeps at hand.
alter table templates add column category text not null default 'news';
create table template_favourites (
  member_id text not null references members on delete cascade,
  template_id text not null references templates on delete cascade,
  primary key (member_id, template_id)
);
create index template_favourites_template on template_favourites (template_id);
