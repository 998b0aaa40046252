/** Travels in every archive, so that it can be read without this program. */
export const ARCHIVE_README = `A workspace of Keep Rolling, archive format 1.

manifest.json   format, version, when it was written, every file's SHA-256 and size, and what could not be written as CSV
tables/*.jsonl  the truth: one JSON object a line, UTF-8
csv/*.csv       the same for people and spreadsheets; never read back
blobs/          files by the SHA-256 of their content

Times are integer milliseconds since 1970-01-01 UTC on the clock of the run ("real" is real time; others are simulated).
Ids are UUIDs and stay the same in every workspace, which is how two workspaces are merged.

A run is its marks (tables/marks.jsonl). A mark is never changed or removed: a correction or an undo is a mark that names another one
("target"). "atMs" is when it happened, "madeAtMs" when it was pressed, "deviceMs" what the device's own clock read, "offsetMs" how far
that clock was from the server's, within "offsetErrMs". "seq" is the order of delivery.

csv/runs.csv has one line a run: recorded time, why it ended, and what it says about the heat limit (reached, or beyond).
Readings (tables/readings.jsonl) belong to a channel of a device: c is the channel's number in tables/channels.jsonl, t the time, v the
value. Temperatures are in degrees Celsius.

Not in here: passphrases and the tokens of devices.
`;
