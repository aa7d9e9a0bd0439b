"""Why a circuit reads as it does."""
