"""The drive: ratings, derating, losses and the motor lead."""
