-- Several revisions of a frame may be delivered beside each other.
drop index revision_for_delivery;
create index revisions_for_delivery on revisions (frame_id) where for_delivery;
