"""What to do: options rated by a simulated trace, and the judged trace of entered stations."""
