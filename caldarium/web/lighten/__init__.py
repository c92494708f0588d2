"""Pages of the step Lighten: the lightest set, the whole party, what caution costs."""
