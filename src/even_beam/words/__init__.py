"""How figures are written and read: numbers, units, lists and plurals, whatever they are of."""
