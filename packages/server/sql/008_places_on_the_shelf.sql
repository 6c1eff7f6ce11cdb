-- A master lies in folders within folders; copies of a recipe may have stayed where they were when it moved. What was thrown
-- away can be brought back for 30 days.
alter table recipe add column folder text;
alter table master drop constraint master_state_check;
alter table master
  add constraint master_state_check check (state in ('live', 'aside', 'thrown')),
  add column thrown_at timestamptz,
  add constraint thrown_when check ((state = 'thrown') = (thrown_at is not null));

-- A move that was begun: the disk and the record can't change in the same moment, so that whoever starts next ends it.
create table shelf_move (
  master text primary key references master on delete cascade,
  source text not null,
  target text not null,
  -- Whether the copies go with it.
  follow boolean not null
);

drop view copy_now;
-- A live copy as it stands, with the verdict that counts now.
create view copy_now as
select copy.id, copy.recipe, recipe.master, recipe.label, recipe.target, recipe.options, recipe.scope, recipe.choices,
       recipe.pattern, recipe.created_at, copy.rev, copy.file, copy.sha256, copy.size, copy.says, copy.footprint, copy.writer,
       (select coalesce(json_agg(json_build_object('part', part, 'file', file, 'sha256', sha256) order by position), '[]')
          from copy_part where copy_part.copy = copy.id) as parts,
       coalesce(recipe.folder, master.folder) as folder, master.head as master_head, standing.head,
       standing.footprint as footprint_now, standing.until,
       standing.ended_by, standing.remark, standing.proof, standing.file_sha256, standing.file_stamp, standing.checked_at,
       acceptance.accepted_by, acceptance.reason, acceptance.at as accepted_at,
       case
         when standing.verdict is null or standing.head <> master.head
           or standing.checked_footprint is distinct from standing.footprint then 'not checked'
         when acceptance.copy is not null and acceptance.footprint = standing.footprint
           and acceptance.file_sha256 is not distinct from standing.file_sha256
           and standing.verdict not in ('in step', 'gone') then 'accepted'
         else standing.verdict
       end as verdict
  from copy
  join recipe on recipe.id = copy.recipe
  join master on master.id = recipe.master
  left join standing on standing.copy = copy.id
  left join acceptance on acceptance.copy = copy.id
 where copy.state = 'live';

-- What a master is about, so that the Desk can lay together what belongs together.
alter table master add column keywords text[] not null default '{}';
create index master_keywords on master using gin (keywords);
