"""What was measured, held against what was designed."""
