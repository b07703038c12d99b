"""What is carried to the house and back: sheets, forms, plans."""
