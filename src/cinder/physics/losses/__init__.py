"""What a house loses: through its fabric, to the ground, to spaces without heating, by its air; room by room."""
