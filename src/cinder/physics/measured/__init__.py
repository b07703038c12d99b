"""What readings tell: of a house, of many, of pipes."""
