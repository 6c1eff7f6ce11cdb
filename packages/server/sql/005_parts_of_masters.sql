-- A master has parts of several kinds: boards, tables.
alter table master add column part_names json not null default '{"boards":[]}';
update master set part_names = json_build_object('boards', boards);
alter table master drop column boards;
