"""Foreign files that unpack to more than they hold: read in a process apart, with limits."""
