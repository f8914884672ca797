"""The workshop from other devices in the home: who may come in, and how often a visitor may try."""
