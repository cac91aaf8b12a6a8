"""Speed as ratios in one run on one machine; absolute times depend on the machine and are printed as a help only."""
