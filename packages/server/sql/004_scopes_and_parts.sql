-- A recipe says a part of a master, not only one board; a copy may be several files; a mark names its writer's version.
drop view copy_now;

alter table recipe
  add column scope json not null default '{"of":"boards","ids":[]}',
  add column choices json not null default '[]';
update recipe set scope = case when board = '' then '{"of":"boards","ids":[]}'::json
                               else json_build_object('of', 'boards', 'ids', json_build_array(board)) end;
alter table recipe drop column board;

alter table copy
  -- Version of the writer that made it; empty in copies from before writers had one.
  add column writer text not null default '';

-- The files of a copy after the first.
create table copy_part (
  copy text not null references copy on delete cascade,
  position integer not null,
  part text not null,
  file text not null,
  sha256 text not null references blob,
  primary key (copy, position)
);
create index part_by_file on copy_part (file);

-- Footprints are made another way from here on. Standings are found again at the next start, from the files; what was accepted
-- stays accepted: it gets the footprint of the revision that it was accepted at as soon as that is known.
update acceptance set footprint = '@' || master.head
  from copy join recipe on recipe.id = copy.recipe join master on master.id = recipe.master
  left join standing on standing.copy = copy.id
 where acceptance.copy = copy.id
   and case when standing.copy is not null then acceptance.footprint = standing.footprint and standing.head = master.head
            -- Data from before there were standings: accepted since the last update, it was accepted as it is.
            else not exists (select from revision where revision.master = master.id and revision.time > acceptance.at) end;
delete from standing;

-- A live copy as it stands, with the verdict that counts now.
create view copy_now as
select copy.id, copy.recipe, recipe.master, recipe.label, recipe.target, recipe.options, recipe.scope, recipe.choices,
       recipe.pattern, recipe.created_at, copy.rev, copy.file, copy.sha256, copy.size, copy.says, copy.footprint, copy.writer,
       (select coalesce(json_agg(json_build_object('part', part, 'file', file, 'sha256', sha256) order by position), '[]')
          from copy_part where copy_part.copy = copy.id) as parts,
       master.folder, master.head as master_head, standing.head, standing.footprint as footprint_now, standing.until,
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
