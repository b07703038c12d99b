"""Hourly weather in and out."""
