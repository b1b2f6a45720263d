"""Two pages side by side, section by section."""
