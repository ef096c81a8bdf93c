"""The order of visits in one cycle: what an order takes, which rules it breaks, and what the three habits of the trade would take."""
