-- The profile that a frame's recipe names, kept by the writer of recipes: no query looks into recipes.
alter table frames add column profile text not null default 'auto';
update frames set profile = coalesce(recipe->'lens'->>'profile', 'auto');
create index frames_by_profile on frames (profile) where profile <> 'auto';

-- Claims are the queue's; a row only says where its picture was made.
alter table delivery_items rename column worker to machine;
drop index items_by_state;

-- Proxies hold light above white now: they are made anew.
update frames set state = 'preparing' where state = 'ready';
