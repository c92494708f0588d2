"""Store and weigh-in."""
