"""From readings to causes: which single fault or pair of faults gives these readings, and what to read next."""
