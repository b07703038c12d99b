"""Jobs as documents with a change log, in PostgreSQL."""
