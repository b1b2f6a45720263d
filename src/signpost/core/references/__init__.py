"""Everything that names an identifier, on all pages, in style sheets and scripts; and renaming it."""
