import type { Step } from "../../db/step.ts";

export const pairingSteps: readonly Step[] = [
  {
    name: "041-pairing",
    up: `create table if not exists pairing (
      code_sha char(64) primary key comment 'sha256 of the one-time code', until_ms bigint not null comment 'UTC milliseconds', used_ms bigint null
    ) comment 'one-time codes that let another device in'`,
    down: "drop table if exists pairing",
  },
];
