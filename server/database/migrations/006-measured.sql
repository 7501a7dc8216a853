-- Edges are measured, and frames trued up, after a frame can be opened already. What was measured before is found again.
alter table frames add column measured boolean not null default false;
