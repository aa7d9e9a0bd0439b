"""From stored rows and core results to views."""
