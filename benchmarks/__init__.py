"""Speed as ratios within one run; never asserted in a timed test."""
