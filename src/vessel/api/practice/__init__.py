"""The practice yard: exercises, what their instruments show, and the debrief."""
