"""What an author does to many pages again and again, kept as a recipe."""
