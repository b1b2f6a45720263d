"""Use cases: load from the store, call the core, save. Transactions live here."""
