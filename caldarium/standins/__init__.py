"""Small simulated services and devices, in the place of real ones that no network reaches."""
