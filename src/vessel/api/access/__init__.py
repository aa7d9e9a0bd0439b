"""Access over a network: signing in with the crew's password, devices, signing out. Loopback needs none of it."""
