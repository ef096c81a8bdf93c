"""The figures we promise, measured with their floors in the same run."""
