-- What new masters are begun from. A template keeps its own document and the files that it shows, whatever becomes of the master
-- that it was made from.
create table template (
  id text primary key,
  name text not null,
  made_by text not null,
  document json not null,
  png bytea,
  made_at timestamptz not null default now()
);
create table template_file (
  template text not null references template on delete cascade,
  sha256 text not null references blob,
  name text not null,
  media_type text not null,
  primary key (template, sha256)
);
