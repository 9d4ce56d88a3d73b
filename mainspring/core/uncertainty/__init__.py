"""How uncertain a figure is: propagation, combination, and what a meter's accuracy is worth."""
