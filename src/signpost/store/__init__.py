"""Sites, files, changes and analyses in PostgreSQL. ORM objects never leave this package."""
