-- Destinations of the house. Each change of one is a new row, so that a version is never used twice.
CREATE TABLE own_destinations (
  version INTEGER PRIMARY KEY AUTOINCREMENT,
  name TEXT NOT NULL UNIQUE,
  destination TEXT NOT NULL
) STRICT;
