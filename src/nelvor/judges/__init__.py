"""What the clauses say about the things of a site, a module for each kind of thing."""
