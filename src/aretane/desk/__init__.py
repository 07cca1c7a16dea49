"""What the application can be asked, by a page or by the command line: plain functions for a scope."""
