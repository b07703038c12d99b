"""The house in time: rooms, emitters, water, machine and controller as arrays and plain numbers, walked step by step."""
