"""What a design bears: loads on wings, tails and booms, the beams that carry them, how they bend."""
