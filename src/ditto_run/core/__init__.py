"""The rules of the job: values in, values out. No clock, chance, file, database or web."""
