import type { Step } from "../../db/step.ts";
import { byBytes } from "../../db/step.ts";

export const clockSteps: readonly Step[] = [
  {
    name: "002-clock",
    up: `create table if not exists clock (
      id varchar(64) primary key,
      kind varchar(16) not null comment 'real, rehearsal or demo',
      wanted_rate double not null default 1 comment 'rate outside gaps'
    ) comment 'bench clocks; the real one is the identity'`,
    down: "drop table if exists clock",
  },
  {
    name: "003-clock-segment",
    up: `create table if not exists clock_segment (
      clock_id varchar(64) not null,
      n int not null comment 'counts up within a clock',
      wall_ms bigint not null comment 'UTC milliseconds from which the piece holds',
      clock_ms bigint not null comment 'bench time at wall_ms',
      rate double not null comment '0 to 120',
      primary key (clock_id, n)
    ) comment 'append-only pieces of bench time'`,
    down: "drop table if exists clock_segment",
  },
  byBytes("054", "clock", "id", "varchar(64)"),
  byBytes("055", "clock_segment", "clock_id", "varchar(64)"),
];
