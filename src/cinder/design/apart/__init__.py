"""What runs the chain again, or takes longer than an edit."""
