-- What was sent to machines: the bytes of a copy, under a name in the folder of a machine.
create table sent (
  id text primary key,
  -- Id of its profile.
  machine text not null,
  file text not null,
  copy text not null references copy on delete cascade,
  sha256 text not null,
  at timestamptz not null default now(),
  by text not null
);
create index sent_by_file on sent (machine, file, at desc);

-- Jobs that somebody let a machine run: nothing of it changes afterwards but what the machine says.
create table run (
  id text primary key,
  machine text not null,
  file text not null,
  -- Of the bytes that the machine said it holds.
  sha256 text not null,
  copy text references copy on delete set null,
  -- How that stood, in words of then, and why it was run all the same; empty where it needed no reason.
  stood text not null,
  reason text not null,
  at timestamptz not null default now(),
  by text not null,
  -- What the machine answered; null as long as it has not.
  said json
);
create index run_by_machine on run (machine, at desc);
create index copy_by_bytes on copy (sha256);
