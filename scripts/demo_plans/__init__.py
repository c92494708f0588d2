"""Plans of the courses and the store that ship as a demo; every name in them is made up."""
