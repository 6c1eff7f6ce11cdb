-- Linked files of the heads of masters and what became of them: a file on the shelf is looked up here to find whom it concerns.
create table link (
  master text not null references master on delete cascade,
  resource text not null,
  -- As the master says it: from the master's own folder or one above it.
  link text not null,
  -- The last part of it, by which a change on the shelf finds it.
  file text not null,
  state text not null,
  primary key (master, resource)
);
create index link_by_file on link (file);
