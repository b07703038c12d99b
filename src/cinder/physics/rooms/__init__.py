"""What emitters give, and how rooms settle together."""
