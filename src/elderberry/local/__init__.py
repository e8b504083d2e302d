"""Running on this machine: a private MariaDB, and the built page."""
