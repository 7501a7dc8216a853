-- Ratios that the pictures of a job are wanted in: shown side by side on the bench.
alter table jobs add column ratios text[] not null default '{original,4:3,16:9,4:5}';
-- What the frame shows, for file names.
alter table frames add column room text not null default '';

create table deliverables (
  id uuid primary key default gen_random_uuid(),
  document jsonb not null,
  shipped boolean not null default false,
  created_at timestamptz not null default clock_timestamp()
);

create table deliveries (
  id uuid primary key default gen_random_uuid(),
  job_id uuid not null references jobs on delete cascade,
  paused boolean not null default false,
  cancelled boolean not null default false,
  created_at timestamptz not null default now()
);
create index deliveries_by_job on deliveries (job_id, created_at desc);

create table delivery_items (
  id uuid primary key default gen_random_uuid(),
  delivery_id uuid not null references deliveries on delete cascade,
  frame_id uuid not null references frames on delete cascade,
  position integer not null,
  -- As they were when the delivery was started: later changes must not leak into it.
  deliverable jsonb not null,
  recipe jsonb not null,
  -- Texts of this picture, with their tokens filled in.
  rights jsonb not null,
  -- The name asked for, and the one it has in the job's folder.
  file text not null,
  placed text,
  state text not null default 'queued'
    check (state in ('queued', 'running', 'done', 'failed', 'cancelled', 'skipped')),
  progress real not null default 0,
  error text,
  worker text,
  bytes bigint,
  width integer,
  height integer,
  quality integer,
  encodes integer,
  sha256 text,
  report jsonb,
  started_at timestamptz,
  finished_at timestamptz
);
create index items_by_delivery on delivery_items (delivery_id, position);
create index items_by_state on delivery_items (state) where state in ('queued', 'running');
