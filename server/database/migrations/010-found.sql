-- Lines and edges are found when a frame is measured: frames measured before are looked at once more.
update frames set measured = false where state = 'ready';
