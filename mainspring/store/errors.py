"""What goes wrong in the store, told without loading it."""


class NotFound(LookupError):
    """No site or line of that id."""


class StoreUnavailable(RuntimeError):
    """The database cannot be reached just now. `unknown`: it fell silent while it was told to keep what was sent."""

    def __init__(self, text: str, *, unknown: bool = False) -> None:
        self.unknown = unknown
        super().__init__(
            f"{text}; whether this was kept is not known: send it again, that is safe"
            if unknown
            else f"{text}; nothing was kept, try again"
        )
