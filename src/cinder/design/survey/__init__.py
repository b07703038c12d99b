"""What the survey says of itself: first guess, signs of the walls, words no table knows."""
