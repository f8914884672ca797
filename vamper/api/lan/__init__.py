"""The server as other devices in the home reach it."""
