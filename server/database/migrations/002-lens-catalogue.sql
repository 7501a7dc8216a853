-- What lists and matching need of a profile, beside the document itself.
alter table lens_profiles
  add column maker text not null default '',
  add column lens text not null default '',
  add column mounts text[] not null default '{}',
  add column bodies text[] not null default '{}',
  add column sensor_half_diagonal float8 not null default 21.6333,
  add column focal_min float8,
  add column focal_max float8,
  add column projection text not null default 'rectilinear',
  -- distortion, lateral, falloff
  add column corrects text[] not null default '{}',
  add column changed_at timestamptz not null default now();

create table camera_bodies (
  maker text not null,
  model text not null,
  mounts text[] not null,
  sensor_half_diagonal float8 not null,
  primary key (maker, model)
);

-- A lens chosen by hand for a body and a lens text: taken again for the next frame that says the same.
create table lens_choices (
  body text not null,
  lens text not null,
  profile_id text not null references lens_profiles on delete cascade on update cascade,
  primary key (body, lens)
);

-- Proxies now hold the file's own colours: they are made anew.
update frames set state = 'preparing' where state = 'ready';
