"""The outside world, simulated: what stands in for it in the demo, the tests and the measurements."""
