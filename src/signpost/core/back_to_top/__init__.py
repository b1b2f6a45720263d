"""Links back to the top: those that are there, and those that are added."""
