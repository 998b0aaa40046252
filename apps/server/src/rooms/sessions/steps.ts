import type { Step } from "../../db/step.ts";
import { byBytes } from "../../db/step.ts";

export const sessionSteps: readonly Step[] = [
  {
    name: "051-session",
    up: `create table if not exists session (
      id uuid primary key, kind varchar(16) not null comment 'walk, hold or job', clock_id varchar(64) not null,
      last_seq int not null comment 'delivery cursor of its facts', status varchar(16) not null comment 'cache of the fold',
      begun_ms bigint not null comment 'cache', fold_v int not null, index (begun_ms)
    ) comment 'a session is its facts; this row is made by the begin'`,
    down: "drop table if exists session",
  },
  {
    name: "052-fact",
    up: `create table if not exists fact (
      session_id uuid not null, seq int not null comment 'delivery order, never in the fold', id uuid not null, device_id uuid not null, device_seq bigint not null,
      kind varchar(40) not null, v int not null, at_ms bigint not null comment 'bench clock', made_at_ms bigint not null comment 'bench clock at the press',
      source varchar(16) not null, device_ms bigint not null, offset_ms bigint not null, offset_err_ms bigint not null,
      target_id uuid null, replaces_id uuid null, accepts_id uuid null, body json not null, extra json null comment 'fields of future versions',
      received_ms bigint not null comment 'UTC milliseconds',
      primary key (session_id, seq), unique (id), unique (session_id, device_id, device_seq)
    ) comment 'facts of sessions, as marks are of runs; append-only'`,
    down: "drop table if exists fact",
  },
  byBytes("057", "session", "clock_id", "varchar(64)"),
];
