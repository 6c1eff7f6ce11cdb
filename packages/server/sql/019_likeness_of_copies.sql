-- What a copy is recognised by when it comes back without its mark: a sample of its pieces. Of copies from before this it is not known
-- until somebody asks.
alter table copy add column likeness integer[];
create index copy_likeness on copy using gin (likeness);
