-- What becomes true by itself when a frame is added; 'none' leaves it as shot.
alter table jobs add column true_up text not null default 'none'
  check (true_up in ('none', 'level', 'verticals', 'both', 'front'));

-- What truing up by itself last said of a frame: { ok, said }.
alter table frames add column lines_said jsonb;

-- Hold back is kept for each angle by itself now.
update frames set recipe = jsonb_set(recipe, '{lines}',
  (recipe->'lines') - 'holdBack' || jsonb_build_object(
    'holdBackRoll', recipe#>'{lines,holdBack}',
    'holdBackPitch', recipe#>'{lines,holdBack}',
    'holdBackYaw', recipe#>'{lines,holdBack}'))
where recipe#>'{lines,holdBack}' is not null;
update exports set recipe = jsonb_set(recipe, '{lines}',
  (recipe->'lines') - 'holdBack' || jsonb_build_object(
    'holdBackRoll', recipe#>'{lines,holdBack}',
    'holdBackPitch', recipe#>'{lines,holdBack}',
    'holdBackYaw', recipe#>'{lines,holdBack}'))
where recipe#>'{lines,holdBack}' is not null;
