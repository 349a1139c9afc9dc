-- What is searched is put in its place as it is written: a list of what is still to be sorted in, as long as after a large
-- package is brought in, would be read through by every search until it is cleared away.
alter index page_search set (fastupdate = off);
alter index assignment_search set (fastupdate = off);
alter index item_title set (fastupdate = off);
select gin_clean_pending_list('page_search'), gin_clean_pending_list('assignment_search'), gin_clean_pending_list('item_title');
