"""Pages of packs: one person's on one morning, and cards to print."""
