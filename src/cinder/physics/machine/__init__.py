"""The heat pump: its map, its season, its controller's curve, its sound."""
