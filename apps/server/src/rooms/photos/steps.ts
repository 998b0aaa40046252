import type { Step } from "../../db/step.ts";

export const photoSteps: readonly Step[] = [
  {
    name: "040-blob",
    up: `create table if not exists \`blob\` (
      sha256 char(64) primary key, bytes bigint not null, mime varchar(80) not null, received_ms bigint not null comment 'UTC milliseconds'
    ) comment 'files by content; the bytes lie in the media folder; append-only'`,
    down: "drop table if exists `blob`",
  },
];
