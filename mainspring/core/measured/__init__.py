"""What was measured before and after: logs judged, fitted and normalised, and what may be claimed from them."""
