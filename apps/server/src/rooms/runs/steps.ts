import type { Step } from "../../db/step.ts";
import { byBytes } from "../../db/step.ts";

export const runSteps: readonly Step[] = [
  {
    name: "020-snapshot",
    up: `create table if not exists snapshot (
      sha256 char(64) primary key, kind varchar(16) not null, doc json not null
    ) comment 'kit as it was when a run began, by content; append-only'`,
    down: "drop table if exists snapshot",
  },
  {
    name: "021-run",
    up: `create table if not exists run (
      id uuid primary key, clock_id varchar(64) not null, kind varchar(16) not null, unit_id uuid not null, mode_id uuid not null,
      unit_sha char(64) not null, mode_sha char(64) not null, condition_sha char(64) not null, protocol_sha char(64) not null,
      parent_run_id uuid null, provenance varchar(16) not null comment 'live or simulated',
      last_seq int not null comment 'delivery cursor of its marks',
      status varchar(16) not null comment 'cache of the fold', started_ms bigint not null comment 'cache', ended_ms bigint null comment 'cache',
      recorded_lo_ms bigint null comment 'cache', recorded_hi_ms bigint null comment 'cache', end_cause varchar(32) null comment 'cache', fold_v int not null,
      index (unit_id, started_ms), index (mode_id, status), index (parent_run_id), index (status)
    ) comment 'a run is its marks; this row is made by the start mark'`,
    down: "drop table if exists run",
  },
  {
    name: "022-mark",
    up: `create table if not exists mark (
      run_id uuid not null, seq int not null comment 'delivery order, never in the fold', id uuid not null, device_id uuid not null, device_seq bigint not null,
      kind varchar(40) not null, v int not null, at_ms bigint not null comment 'bench clock', made_at_ms bigint not null comment 'bench clock at the press',
      source varchar(16) not null, device_ms bigint not null, offset_ms bigint not null, offset_err_ms bigint not null,
      target_id uuid null, replaces_id uuid null, accepts_id uuid null, body json not null, extra json null comment 'fields of future versions',
      received_ms bigint not null comment 'UTC milliseconds',
      primary key (run_id, seq), unique (id), unique (run_id, device_id, device_seq)
    ) comment 'the facts; append-only'`,
    down: "drop table if exists mark",
  },
  {
    name: "023-strike",
    up: `create table if not exists strike (
      id uuid primary key, run_id uuid not null, reason text not null, undoes uuid null comment 'the strike this one takes back', at_ms bigint not null,
      index (run_id)
    ) comment 'runs struck out of statements, with a reason; append-only'`,
    down: "drop table if exists strike",
  },
  {
    name: "050-run-observed",
    up: `alter table run
      add column if not exists any_firmware_sha char(64) null comment 'cache: its cell without the firmware',
      add column if not exists firmware varchar(200) null comment 'cache',
      add column if not exists observed json null comment 'cache: what it says for its cell, by endpoint',
      add index if not exists any_firmware_sha (any_firmware_sha)`,
    down: "alter table run drop column if exists any_firmware_sha, drop column if exists firmware, drop column if exists observed",
  },
  byBytes("056", "run", "clock_id", "varchar(64)"),
];
