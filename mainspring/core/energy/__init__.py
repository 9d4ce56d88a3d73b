"""Energy over a duty profile: throttled against slowed."""
