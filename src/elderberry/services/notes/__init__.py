"""Notes: every batch as a page, once it is over."""
