"""The web application: routers parse, call and shape; nothing is computed here."""
