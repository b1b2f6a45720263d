"""Where a site is published: the places it goes to, a host to practise on, and the site as readers get it there."""
