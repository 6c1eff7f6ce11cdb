-- Bytes, stored once: a blob is a list of chunks, each named by its SHA-256.
create table chunk (
  sha256 text primary key,
  bytes bytea not null
);
create table blob (
  sha256 text primary key,
  size bigint not null
);
create table blob_chunk (
  blob text not null references blob on delete cascade,
  position integer not null,
  chunk text not null references chunk,
  primary key (blob, position)
);

create table master (
  id text primary key,
  title text not null,
  folder text not null unique,
  head integer not null,
  -- SHA-256 of the native file as last written to the shelf; null before the first time.
  file_sha256 text,
  created_at timestamptz not null default now()
);

-- A revision stores what changed, not the document again. Only the first holds a document.
create table revision (
  master text not null references master on delete cascade,
  rev integer not null check (rev > 0),
  time timestamptz not null,
  author text not null,
  message text not null,
  patches json not null,
  document json,
  primary key (master, rev),
  check ((rev = 1) = (document is not null))
);

create table original (
  master text not null references master on delete cascade,
  sha256 text not null references blob,
  name text not null,
  media_type text not null,
  primary key (master, sha256)
);

-- The draft is a journal of steps; `position` says how many of them are done, the rest can be done again.
create table draft (
  master text primary key references master on delete cascade,
  base integer not null,
  position integer not null,
  updated_at timestamptz not null default now()
);
create table draft_step (
  master text not null references draft on delete cascade,
  seq integer not null,
  step json not null,
  primary key (master, seq)
);

create table recipe (
  id text primary key,
  master text not null references master on delete cascade,
  label text not null,
  target text not null,
  options json not null,
  board text not null,
  pattern text not null,
  created_at timestamptz not null default now()
);

create table copy (
  id text primary key,
  recipe text not null references recipe on delete cascade,
  rev integer not null,
  file text not null,
  sha256 text not null references blob,
  size bigint not null,
  says text not null,
  footprint text not null,
  state text not null check (state in ('live', 'superseded', 'withdrawn')),
  written_at timestamptz not null default now()
);
create unique index one_live_copy on copy (recipe) where state = 'live';

create table match_check (
  id bigint generated always as identity primary key,
  copy text not null references copy on delete cascade,
  head integer not null,
  -- SHA-256 of the file that was checked; null when there was none.
  file_sha256 text,
  verdict text not null,
  remark text not null,
  proof text not null,
  differences json not null,
  at timestamptz not null default now()
);
create index latest_check on match_check (copy, id desc);

create table acceptance (
  copy text primary key references copy on delete cascade,
  accepted_by text not null,
  reason text not null,
  file_sha256 text,
  footprint text not null,
  at timestamptz not null default now()
);
