"""What every reader of an entry stands on: signs, spoken numbers, numbers with their unit."""
