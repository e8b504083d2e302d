"""Pure computation and rules: no clock, no network, no database, no interface code."""
