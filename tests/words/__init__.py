"""Every sentence of the interface, listed by the station that shows it."""
