-- A master that was opened from files of an older native version: which they are, until nobody needs them any more. Until its
-- first update nothing is written beside them.
alter table master add column older json;
