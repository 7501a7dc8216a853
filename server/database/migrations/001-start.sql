create table jobs (
  id uuid primary key default gen_random_uuid(),
  name text not null,
  client text not null default '',
  site text not null default '',
  due date,
  created_at timestamptz not null default now()
);

create table originals (
  sha256 text primary key,
  bytes bigint not null,
  created_at timestamptz not null default now()
);

create table frames (
  id uuid primary key default gen_random_uuid(),
  job_id uuid not null references jobs on delete cascade,
  sha256 text not null references originals,
  name text not null,
  -- preparing: original stored, proxy not made yet; ready; failed: see error
  state text not null default 'preparing' check (state in ('preparing', 'ready', 'failed')),
  error text,
  facts jsonb,
  proxy jsonb,
  recipe jsonb not null default '{}',
  version integer not null default 0,
  created_at timestamptz not null default now(),
  unique (job_id, sha256)
);

create table lens_profiles (
  id text primary key,
  document jsonb not null,
  origin text not null check (origin in ('shipped', 'imported', 'measured'))
);

create table exports (
  id uuid primary key default gen_random_uuid(),
  frame_id uuid not null references frames on delete cascade,
  settings jsonb not null,
  -- The recipe as it was when the export was asked for: later changes must not leak into it.
  recipe jsonb not null,
  state text not null default 'queued' check (state in ('queued', 'running', 'done', 'failed', 'cancelled')),
  progress real not null default 0,
  error text,
  worker text,
  file text,
  bytes bigint,
  report jsonb,
  created_at timestamptz not null default now(),
  finished_at timestamptz
);
create index exports_by_frame on exports (frame_id, created_at desc);
create index frames_by_job on frames (job_id, name);
