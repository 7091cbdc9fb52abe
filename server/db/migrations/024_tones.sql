-- How light a picture is: the share of its points in each of ten steps of lightness, per cent; null where it was never
-- looked at.
alter table pictures add column tones smallint[];
