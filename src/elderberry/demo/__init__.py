"""The made-up household that the demo shows."""
