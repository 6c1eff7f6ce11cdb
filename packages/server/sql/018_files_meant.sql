-- Files of a master that were about to be written, by SHA-256. One that stands there without being on record is ours where whoever
-- wrote it was cut off before it could say so, however many revisions ago that was.
alter table master add column file_meant text[] not null default '{}';
