"""Drying: in the cold under vacuum, in warm air, and back again with water."""
