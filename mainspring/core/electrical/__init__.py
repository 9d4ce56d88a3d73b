"""The supply: unbalance and what it does."""
