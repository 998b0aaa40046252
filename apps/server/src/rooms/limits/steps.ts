import type { Step } from "../../db/step.ts";

export const limitSteps: readonly Step[] = [
  {
    name: "024-statement",
    up: `create table if not exists statement (
      id uuid primary key, unit_id uuid not null, any_firmware_sha char(64) not null comment 'the cell without its firmware', recorded_at_ms bigint not null comment 'on the runs clock',
      doc json not null, evidence_sha char(64) not null, supersedes uuid null, index (unit_id), index (any_firmware_sha)
    ) comment 'recorded limits, frozen; append-only'`,
    down: "drop table if exists statement",
  },
];
