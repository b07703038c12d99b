"""A job as a file: whole, in brief, with all that belongs to it; and a new one."""
