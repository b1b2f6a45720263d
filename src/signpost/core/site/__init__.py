"""Pages and files together: what links lead to, and plans that reach across files."""
