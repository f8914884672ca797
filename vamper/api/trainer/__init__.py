"""The trainer on the wire: lessons, plays, and spoilt sheets of free play."""
