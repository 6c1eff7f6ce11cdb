-- Standing orders: copies that are written again with each update of their master, without anybody asking.
alter table recipe add column each_update boolean not null default false;

drop view copy_now;
-- A live copy as it stands, with the verdict that counts now.
create view copy_now as
select copy.id, copy.recipe, recipe.master, recipe.label, recipe.target, recipe.options, recipe.scope, recipe.choices,
       recipe.row, recipe.series, series.label as series_label, copy.password is not null as locked, recipe.each_update,
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
  left join series on series.id = recipe.series
  left join standing on standing.copy = copy.id
  left join acceptance on acceptance.copy = copy.id
 where copy.state = 'live';
