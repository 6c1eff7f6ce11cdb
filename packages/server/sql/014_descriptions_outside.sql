-- Descriptions of masters in a file beside them (XMP): what both sides said when they were last the same, and how they stand.
create table sidecar (
  master text primary key references master on delete cascade,
  -- Null where it was never written out or taken in.
  base json,
  -- How the two stand; 'none' where there is no file and none is wanted.
  state text not null default 'none',
  -- What is not the same, field by field.
  fields json not null default '[]',
  -- Why the file can't be read.
  trouble text,
  -- Whether every update writes it out.
  standing boolean not null default false
);
create index sidecar_by_state on sidecar (state) where state not in ('none', 'in step');
