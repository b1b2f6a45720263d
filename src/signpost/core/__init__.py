"""The rules of the job: values in, values out. No files, no clock, no database, no web."""

#: Part of every cached analysis's key. Raise it whenever a rule changes what an analysis contains.
CORE_VERSION = 8
