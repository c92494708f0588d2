"""Weather and route, their sources and files."""
