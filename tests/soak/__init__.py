"""What the store survives: kills, full disks, several at once. Short in `make test`, at length in `make soak`."""
