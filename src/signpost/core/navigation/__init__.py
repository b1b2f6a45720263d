"""Navigation across the pages of a site: menus, paths to a page, the pages before and after, lists of all."""
