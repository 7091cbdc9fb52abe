-- Counting asks for the events of a handful of recipients: their plan is made when there are few events and kept while
-- they become many, and is to go by the index from the start.
alter function count_events() set enable_seqscan = off;
alter function uncount_machines() set enable_seqscan = off;
