-- What objects and symbols of a master are called, by the name that somebody gave them: each as name, id and the part that it is on.
-- Of masters from before this it is not known until the next start has looked.
alter table master add column object_names jsonb;
