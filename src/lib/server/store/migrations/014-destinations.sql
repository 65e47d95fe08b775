-- Destinations of the house. Each change of one is a new row, so that a version is never used twice.
CREATE TABLE own_destinations (
  version INTEGER PRIMARY KEY AUTOINCREMENT,
  name TEXT NOT NULL UNIQUE,
  destination TEXT NOT NULL
) STRICT;

-- What was handed over last, and how: one row at most.
CREATE TABLE last_destination (
  only_one INTEGER PRIMARY KEY CHECK (only_one = 1),
  destination TEXT NOT NULL
) STRICT;
