-- Pictures that a master links to are described in files beside them, too.
alter table sidecar add column about text not null default '';
alter table sidecar drop constraint sidecar_pkey;
alter table sidecar add primary key (master, about);
-- Of a picture: what it is called, and the path of the file of its description.
alter table sidecar add column name text not null default '';
alter table sidecar add column file text not null default '';
create index sidecar_by_file on sidecar (file) where file <> '';
