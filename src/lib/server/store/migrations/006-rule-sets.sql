-- A house's own sets of numbers, beside those that ship.
CREATE TABLE rule_sets (
  name TEXT PRIMARY KEY,
  rules TEXT NOT NULL
) STRICT;
