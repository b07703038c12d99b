"""What the house is built of: U-values, floors on the ground, unheated spaces, thermal bridges."""
