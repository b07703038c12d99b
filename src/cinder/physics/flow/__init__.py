"""Water on its way: what it is, pipes, networks, pumps, what takes its swelling, what parts it."""
