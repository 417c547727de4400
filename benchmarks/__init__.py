"""What is measured against what, as ratios in one run."""
