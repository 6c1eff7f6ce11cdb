-- Triangles of solids by what they are made of: a kernel makes each once.
create table made_solid (
  key text primary key,
  head json not null,
  buffers bytea[] not null,
  used timestamptz not null default now()
);
