"""Before anything is switched on."""
