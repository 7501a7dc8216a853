-- House settings: named sets of steps, in folders of our own making.
create table house_settings (
  id uuid primary key default gen_random_uuid(),
  name text not null,
  folder text not null default '',
  steps jsonb not null,
  made_at timestamptz not null default now()
);
