-- House settings that are laid by themselves over frames of a job, and for which of them.
alter table jobs add column house_rules jsonb not null default '[]';
