-- States of a frame's recipe, in their order: what is undone stays until something else is changed. Positions only grow.
create table frame_states (
  frame_id uuid not null references frames on delete cascade,
  position integer not null,
  recipe jsonb not null,
  made_at timestamptz not null default now(),
  primary key (frame_id, position)
);
-- Which of them the frame is in. Null: none was kept yet.
alter table frames add column state_at integer;

-- States that are kept by name; one of a frame's may be marked for delivery, else it is delivered as it stands.
create table revisions (
  id uuid primary key default gen_random_uuid(),
  frame_id uuid not null references frames on delete cascade,
  letter text not null,
  name text not null default '',
  recipe jsonb not null,
  for_delivery boolean not null default false,
  made_at timestamptz not null default now(),
  unique (frame_id, letter)
);
create unique index revision_for_delivery on revisions (frame_id) where for_delivery;
