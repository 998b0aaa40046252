import type { Step } from "../../db/step.ts";
import { byBytes } from "../../db/step.ts";

export const deviceSteps: readonly Step[] = [
  {
    name: "030-device",
    up: `create table if not exists device (
      id uuid primary key, kind varchar(16) not null comment 'browser, stand-in or sensor', name varchar(120) not null, unit_id uuid null,
      token_hash char(64) null unique comment 'sha256 of the bearer token', revoked_at datetime(3) null comment 'UTC'
    ) comment 'who posts marks and readings'`,
    down: "drop table if exists device",
  },
  {
    name: "031-device-event",
    up: `create table if not exists device_event (
      id uuid primary key, device_id uuid not null, unit_id uuid not null, at_ms bigint not null, kind varchar(24) not null, body json not null,
      index (unit_id, at_ms)
    ) comment 'what a device said happened; a mark may accept one; append-only'`,
    down: "drop table if exists device_event",
  },
  {
    name: "032-stream",
    up: `create table if not exists stream (
      id int auto_increment primary key, device_id uuid not null, channel varchar(40) not null, quantity varchar(24) not null, unit varchar(16) not null,
      unique (device_id, channel)
    ) comment 'a channel of a device'`,
    down: "drop table if exists stream",
  },
  {
    name: "033-stream-use",
    up: `create table if not exists stream_use (
      stream_id int not null, unit_id uuid not null, role varchar(24) not null, from_ms bigint not null, to_ms bigint null,
      primary key (stream_id, unit_id, from_ms), index (unit_id)
    ) comment 'which body a channel watches, and when'`,
    down: "drop table if exists stream_use",
  },
  {
    name: "034-reading",
    up: `create table if not exists reading (
      stream_id int not null, at_ms bigint not null, value double not null, primary key (stream_id, at_ms)
    ) comment 'readings belong to a channel, never to a run; append-only'`,
    down: "drop table if exists reading",
  },
  {
    name: "035-reading-minute",
    up: `create table if not exists reading_minute (
      stream_id int not null, minute bigint not null comment 'at_ms div 60000', n int not null, min double not null, max double not null, sum double not null,
      first_ms bigint not null, first double not null, last_ms bigint not null, last double not null, primary key (stream_id, minute)
    ) comment 'cache of reading, kept in the same transaction'`,
    down: "drop table if exists reading_minute",
  },
  {
    name: "036-intake-batch",
    up: `create table if not exists intake_batch (
      device_id uuid not null, idem_key varchar(80) not null, sha256 char(64) not null, reply json not null, received_ms bigint not null,
      primary key (device_id, idem_key)
    ) comment 'batches already taken, with their answer'`,
    down: "drop table if exists intake_batch",
  },
  {
    name: "037-intake-issue",
    up: `create table if not exists intake_issue (
      id bigint auto_increment primary key, device_id uuid null, line_no int not null, raw mediumtext not null, code varchar(200) not null, received_ms bigint not null
    ) comment 'what could not be taken in, kept whole'`,
    down: "drop table if exists intake_issue",
  },
  byBytes("058", "intake_batch", "idem_key", "varchar(80)"),
];
