-- The revision that the native file on the shelf holds; what a stop left unwritten is seen by it at the next start.
alter table master add column file_rev integer;
