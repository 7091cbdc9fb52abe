-- Tests of earlier days, as those of today: a message for each address.
insert into test_messages (test_id, address, contact_id, failed)
select t.id, a.address, t.read_as,
  (select substr(f.line, length(a.address) + 3) from jsonb_array_elements_text(t.failed) f(line)
    where starts_with(f.line, a.address || ':') limit 1)
from test_sends t, jsonb_array_elements_text(t.addresses) a(address)
where not exists (select 1 from test_messages m where m.test_id = t.id);
alter table test_sends drop column addresses, drop column read_as, drop column failed;
