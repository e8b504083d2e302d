"""Tables for spreadsheets, going out and coming in."""
