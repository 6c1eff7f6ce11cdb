-- A copy whose name is taken may take the place of what stands there: what somebody chose when it was asked for.
alter table recipe add column replaces boolean not null default false;
