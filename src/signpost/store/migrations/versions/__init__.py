"""The tables' history."""
