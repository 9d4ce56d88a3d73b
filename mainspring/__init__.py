"""Set up variable speed drives on pumps and fans, and prove what they save."""

__version__ = "0.2.0"  # the only place: package, API and screens take it from here
