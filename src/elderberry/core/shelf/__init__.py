"""The shelf: how warm its places are, how far jars have aged, and what becomes of them."""
