"""Speed and memory as ratios against a stated floor, measured in the same run."""
