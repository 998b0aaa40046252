import type { Step } from "../../db/step.ts";

export const walkSteps: readonly Step[] = [
  {
    name: "062-walk-clip",
    up: `create table if not exists walk_clip (
      session_id uuid not null, sha256 char(64) not null comment 'of the clip itself, which stays where it is', doc json not null comment 'what was measured, and where its path and stills lie',
      received_ms bigint not null comment 'UTC milliseconds', primary key (session_id, sha256)
    ) comment 'measurements of clips of walking tests; may be measured anew'`,
    down: "drop table if exists walk_clip",
  },
];
