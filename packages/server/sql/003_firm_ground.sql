-- What the Desk shows is stored when it changes and read as rows, never computed from documents while someone waits.
alter table master
  add column owner text not null default '',
  -- Boards by id and name, and how many objects they hold: names of copies and the weight of the work need no more.
  add column boards json not null default '[]',
  add column objects integer not null default 0,
  -- 'aside': taken off the Desk, with everything it has.
  add column state text not null default 'live' check (state in ('live', 'aside'));
create index master_in_order on master (state, created_at, id);

-- A draft belongs to one person. Those from before belong to nobody until someone takes one up.
alter table draft
  add column person text not null default '',
  add column name text not null default '',
  -- Counts every change, so that what a process keeps of it in memory is known to be the latest.
  add column version integer not null default 1;
alter table draft_step add column person text not null default '';
alter table draft_step drop constraint draft_step_master_fkey;
alter table draft_step drop constraint draft_step_pkey;
alter table draft drop constraint draft_pkey;
alter table draft add primary key (master, person);
alter table draft_step add primary key (master, person, seq);
alter table draft_step add foreign key (master, person) references draft (master, person) on delete cascade on update cascade;

-- How a live copy stands at a revision of its master.
create table standing (
  copy text primary key references copy on delete cascade,
  -- The revision that footprint and span speak of.
  head integer not null,
  footprint text not null,
  -- The last revision for which nothing that the copy carries had changed, and what ended that.
  until integer not null,
  ended_by text,
  -- The verdict of the latest check; it counts as long as the footprint is the one that it was found at.
  verdict text,
  remark text,
  proof text,
  checked_footprint text,
  file_sha256 text,
  -- Size, time and number of the file when it was checked: a start looks only at files whose stamp is another.
  file_stamp text,
  checked_at timestamptz
);
-- Checks from before are made again at the next start, from the files; what was accepted stays accepted.
drop table match_check;

-- A small picture of the first board.
create table picture (
  master text primary key references master on delete cascade,
  rev integer not null,
  png bytea not null
);

-- What a person should know until it is mended or taken off by hand.
create table notice (
  id bigint generated always as identity primary key,
  master text not null references master on delete cascade,
  -- What it is about: a newer word about the same replaces it.
  about text not null,
  message text not null,
  at timestamptz not null default now(),
  unique (master, about)
);

-- Which worker has a job, so that what a lost worker had goes to another at once.
create table job_holder (
  job uuid primary key,
  queue text not null,
  worker integer not null,
  at timestamptz not null default now()
);
create sequence worker_number as integer;

create table setting (
  name text primary key,
  value text not null
);
insert into setting (name, value) values ('shelf', gen_random_uuid()::text);

create index recipe_of_master on recipe (master);
create index copies_of_recipe on copy (recipe, state);
create index live_copy_by_file on copy (file) where state = 'live';
create index original_by_bytes on original (sha256);
create index chunk_users on blob_chunk (chunk);

-- A live copy as it stands, with the verdict that counts now.
create view copy_now as
select copy.id, copy.recipe, recipe.master, recipe.label, recipe.target, recipe.options, recipe.board, recipe.pattern,
       recipe.created_at, copy.rev, copy.file, copy.sha256, copy.size, copy.says, copy.footprint, master.folder,
       master.head as master_head, standing.head, standing.footprint as footprint_now, standing.until, standing.ended_by,
       standing.remark, standing.proof, standing.file_sha256, standing.file_stamp, standing.checked_at,
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

-- The application works with rows and changes nothing else; rights grow by migrations only.
do $$ begin
  if exists (select from pg_roles where rolname = 'inkwell_app') then
    grant usage on schema public to inkwell_app;
    grant select, insert, update, delete on all tables in schema public to inkwell_app;
    grant usage on all sequences in schema public to inkwell_app;
    alter default privileges in schema public grant select, insert, update, delete on tables to inkwell_app;
    alter default privileges in schema public grant usage on sequences to inkwell_app;
    revoke insert, update, delete on migration from inkwell_app;
  end if;
end $$;
