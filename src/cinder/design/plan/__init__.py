"""Where the rooms stand: their walks, their bodies, what lies beyond every stretch of every face."""
