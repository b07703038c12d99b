"""Mellow Cinder: one edit and the whole chain moves, from rooms to weather curve."""

ENGINE_VERSION = "0.5.0"
