"""The Brief: wishes as sentences, and the ground they leave."""
