"""What goes out and comes in: files that other programs and printers read."""
