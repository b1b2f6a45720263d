"""What pages contain, in open forms that other programs read."""
