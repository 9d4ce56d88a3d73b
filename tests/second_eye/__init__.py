"""The second pair of eyes on right lines, and on the same lines with one slip in each."""
