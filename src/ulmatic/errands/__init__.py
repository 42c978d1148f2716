"""What is asked for in a request and done after it: services outside are heard, large files are read."""
