"""What is remembered, what is worked out slowly, what is written in the background: neither HTTP nor rules of the trade."""
