"""Reading and writing: the design file, the recent list, and the recovery copy. No interface code."""
