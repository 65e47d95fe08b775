-- The video of a site that a recording is shown as.
CREATE TABLE site_videos (
  recording_id TEXT PRIMARY KEY REFERENCES recordings (id) ON DELETE CASCADE,
  video_id TEXT NOT NULL
) STRICT;
-- What was sent to a site, with what it said, so that it can be compared and published again.
CREATE TABLE publications (
  id TEXT PRIMARY KEY,
  track_id TEXT NOT NULL REFERENCES tracks (id) ON DELETE CASCADE,
  video_id TEXT NOT NULL,
  caption_id TEXT NOT NULL,
  language TEXT NOT NULL,
  name TEXT NOT NULL,
  file TEXT NOT NULL,
  content TEXT NOT NULL,
  version INTEGER NOT NULL,
  published_at_ms INTEGER NOT NULL
) STRICT;
CREATE INDEX publications_by_track ON publications (track_id, video_id);
