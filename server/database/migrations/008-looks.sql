-- Looks that were imported: the table as bytes, and what is said of it in lists.
create table looks (
  id uuid primary key default gen_random_uuid(),
  name text not null,
  kind text not null,
  size integer not null,
  space text not null,
  sha256 text not null unique,
  stored bytea not null,
  created_at timestamptz not null default now()
);
