"""Elderberry: the measuring, timing and judgement behind fruit that keeps."""
