"""From art bytes to designs."""
