-- Which run has a picture in hand: what another one makes of it is not written over.
alter table delivery_items add column claim uuid;

-- The folder that a delivery's pictures lie in stays what it was when its job is renamed. Null: not told yet.
alter table deliveries add column folder text;

-- The look that a frame's recipe names, kept by the writer of recipes: no query looks into recipes.
alter table frames add column look text;
update frames set look = recipe->'colour'->>'look';
create index frames_by_look on frames (look) where look is not null;

create index frames_by_original on frames (sha256);
create index items_by_frame on delivery_items (frame_id);
create index items_open on delivery_items (delivery_id, frame_id) where state in ('queued', 'running');
