"""Laws and standards as pure functions on floats and numpy arrays.

Nothing here knows a job, a table, a file or a default of the trade. Scalars and arrays give the
same numbers; quantities carry their unit in the name; impossible input raises `PhysicsError`.
"""
