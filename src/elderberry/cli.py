"""The one command, behind ./elderberry."""
