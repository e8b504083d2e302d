"""Sums of the kitchen: one question each, with its answer and what else is known then."""
