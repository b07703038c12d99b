"""The commissioning day: its steps in order, what is expected of this house, what was measured, what it means."""
