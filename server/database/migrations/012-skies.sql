-- Skies that were taken in: each as a picture file of at most 2,400 pixels, which stages are given from.
create table skies (
  id uuid primary key default gen_random_uuid(),
  name text not null,
  width integer not null,
  height integer not null,
  sha256 text not null unique,
  picture bytea not null,
  created_at timestamptz not null default now()
);
