-- 1 where browsers do not play what was sent: they are given a copy that is made while the recording is prepared.
ALTER TABLE recordings ADD COLUMN has_proxy INTEGER NOT NULL DEFAULT 0;
