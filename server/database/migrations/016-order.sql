-- The place that a frame was given in its job by hand; null: by its name, after those that have one.
alter table frames add column place integer;
