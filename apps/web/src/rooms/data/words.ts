// Tables of the archive in words.

const WORDS: Readonly<Record<string, string>> = {
  kit: "versions of the kit",
  unitEvents: "what happened to bodies",
  clocks: "clocks",
  devices: "devices",
  marks: "marks",
  strikes: "runs left out",
  limits: "recorded limits",
  deviceEvents: "what devices said",
  channels: "channels",
  readings: "readings",
  intakeBatches: "deliveries of loggers",
  setAside: "set aside",
  blobs: "files",
};

/** A table this version does not know keeps its own name. */
export const tableWords = (table: string): string => WORDS[table] ?? table;
