"""The practice yard: sites whose ground is hidden, what their instruments show, and how it went."""
