"""The routes of the API: one router a concept, thin."""
