-- A master that was deleted for good and is brought in again keeps its id and is another one: each bringing-in has a name of its
-- own, and whatever remembers a master remembers it by that. Masters from before keep their id for it, so that drafts in
-- browsers go on.
alter table master add column life text not null default gen_random_uuid()::text;
update master set life = id;
create unique index master_by_life on master (life);

-- Versions of drafts never come again, whichever server counts them and however often a draft is begun anew.
create sequence draft_version;
update draft set version = nextval('draft_version');
alter table draft alter column version drop default;
