"""Trying Elderberry hard: a private installation under load, killed, fuzzed, with a big cellar."""
