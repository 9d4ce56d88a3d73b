"""How a site may be billed for its energy: what each way is called. What it costs is `benches/savings/tariffs`."""

TARIFFS: dict[str, str] = {"flat": "One price", "bands": "By time of use", "tiers": "In blocks by the month"}
