-- A master has parts of several kinds: boards, tables.
alter table master add column parts json not null default '{"boards":[]}';
update master set parts = json_build_object('boards', boards);
alter table master drop column boards;
