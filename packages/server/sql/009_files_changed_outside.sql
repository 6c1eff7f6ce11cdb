-- A master's file on the shelf that another program changed: a third party, kept until someone says what becomes of it.
create table outside (
  master text primary key references master on delete cascade,
  sha256 text not null references blob,
  -- The revision that the file held when it was last ours.
  base integer not null,
  -- Why it can't be brought together with the master, in words; null where it can.
  trouble text,
  at timestamptz not null default now()
);
-- A file that someone took in counts as one of ours: it may be written over.
alter table master
  add column file_taken text,
  -- Size, time and number of the file when it was written or looked at last: a start reads only files whose stamp is another.
  add column file_stamp text;
