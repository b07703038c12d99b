"""Pictures and papers that are brought in, looked at before they are kept."""
