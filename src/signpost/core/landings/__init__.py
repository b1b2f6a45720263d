"""Where jumps land in a reader's window, and what would make them land better."""
