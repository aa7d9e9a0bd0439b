"""Why a circuit reads as it does: hypotheses run through the network and ranked against the transmitter."""
