-- The number of the email's state that a launch froze: what came after it does not go out with it. Null for
-- launches from before.
alter table launches add column document_seq int;
