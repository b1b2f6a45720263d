"""What links say: their kinds, the files and fragments they lead to, and paths of files."""
