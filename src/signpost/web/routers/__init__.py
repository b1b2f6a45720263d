"""The addresses of the application, by what they are about."""
