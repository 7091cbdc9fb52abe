-- What an edit is to its person's history (done, taken back, done again), the step it belongs to and the step
-- it takes back; steps are named by ids that browsers make, so that undo works without the line.
alter table edits add column does text not null default 'do';
alter table edits add column step_id text;
alter table edits add column of_step text;

update edits e set does = 'undo' where e.undoes is not null;
update edits e set does = 'redo'
  from edits u where u.document_id = e.document_id and u.undone_by = e.seq and u.undoes is not null;
-- Typing in one go shared the number of its first edit; what one press took back was made at one moment.
update edits e set step_id = f.envelope_id
  from edits f where e.does = 'do' and f.document_id = e.document_id and f.seq = e.step;
update edits e set step_id = (
  select f.envelope_id from edits f
  where f.document_id = e.document_id and f.member_id = e.member_id and f.tab = e.tab and f.at = e.at
    and f.does = e.does
  order by f.seq limit 1) where e.does <> 'do';
update edits e set of_step = t.step_id
  from edits t where e.does = 'undo' and t.document_id = e.document_id and t.seq = e.undoes;
update edits e set of_step = t.step_id
  from edits t where e.does = 'redo' and t.document_id = e.document_id and t.undone_by = e.seq;

alter table edits drop column undoes;
alter table edits drop column undone_by;
alter table edits drop column step;
alter table edits rename column step_id to step;
alter table edits alter column step set not null;
create index edits_of_step on edits (document_id, of_step) where of_step is not null;
