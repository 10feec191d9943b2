"""The Weights: what is aboard, what saves, the scale, the finished model, and sets."""
