"""What one request may carry."""

#: The largest request body, in bytes: an archive and what surrounds it.
BODY_BYTES = 160 * 1024 * 1024
#: The largest request body of all but uploads, in bytes: a page's text, escaped.
TEXT_BODY_BYTES = 32 * 1024 * 1024
#: How many files one request may bring.
FILES_A_REQUEST = 1000
