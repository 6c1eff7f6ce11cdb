-- What was withdrawn is not derived again by a job that was asked for before: the recipe says so, and who lays a copy down asks.
alter table recipe add column withdrawn_at timestamptz;
update recipe set withdrawn_at = now()
 where exists (select from copy where copy.recipe = recipe.id and state = 'withdrawn')
   and not exists (select from copy where copy.recipe = recipe.id and state = 'live');
