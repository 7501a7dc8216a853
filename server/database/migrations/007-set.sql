-- Jobs that are done with are put away: kept, but out of the way.
alter table jobs add column put_away boolean not null default false;
-- What a frame is in its job.
alter table frames add column choice text not null default 'undecided'
  check (choice in ('chosen', 'undecided', 'left out'));
