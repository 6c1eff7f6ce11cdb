-- A revision may have a name, given at any time: what it was is not changed by that.
alter table revision add column name text not null default '';
