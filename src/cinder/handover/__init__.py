"""What is promised and handed over: the offer, the records of the pack, the upkeep, the promise."""
