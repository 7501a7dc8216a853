-- Frames that were given to another program: as files in their job's hand-over folder, each taken back when it changes.
create table hand_overs (
  id uuid primary key default gen_random_uuid(),
  frame_id uuid not null references frames on delete cascade,
  -- As they were when the frame was handed over.
  settings jsonb not null,
  recipe jsonb not null,
  -- queued: not written yet; out: lies in the folder; failed: could not be written
  state text not null default 'queued' check (state in ('queued', 'out', 'failed')),
  -- Why it could not be written, or taken back.
  error text,
  -- Path in the folder of all hand-overs; null: not told yet.
  file text unique,
  width integer,
  height integer,
  -- Of the file as it was last written or taken back, and how it then looked from outside.
  sha256 text,
  seen text,
  -- The frame that came of it.
  returned_id uuid references frames on delete set null,
  handed_at timestamptz not null default now()
);
create index hand_overs_by_frame on hand_overs (frame_id);
create index hand_overs_open on hand_overs (id) where state = 'queued';

-- Of a frame that was changed in another program: which one it is of, and when.
alter table frames add column outside jsonb;
