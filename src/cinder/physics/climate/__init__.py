"""The year outside, hour by hour, and what it asks of a house."""
