import type { Step } from "../../db/step.ts";

const table = (name: string, columns: string, comment: string): string =>
  `create table if not exists ${name} (
    id uuid primary key,
    ${columns},
    archived boolean not null default 0,
    rev int not null comment 'counts up with every save'
  ) comment '${comment}'`;

const step = (n: string, name: string, columns: string, comment: string): Step => ({
  name: `${n}-${name.replaceAll("_", "-")}`,
  up: table(name, columns, comment),
  down: `drop table if exists ${name}`,
});

export const kitSteps: readonly Step[] = [
  step(
    "010",
    "camera_model",
    `name varchar(120) not null, sensor_width_mm double not null, sensor_height_mm double not null, megapixels double not null`,
    "camera models",
  ),
  step(
    "011",
    "unit",
    `model_id uuid not null, name varchar(120) not null, serial_label varchar(80) not null, firmware varchar(40) not null,
    notes text not null, bench varchar(16) not null comment 'real, rehearsal or demo: the clock its runs are on'`,
    "one physical body each",
  ),
  step(
    "012",
    "mode",
    `model_id uuid not null, name varchar(120) not null, width_px int not null, height_px int not null, fps_num int not null, fps_den int not null,
    readout varchar(24) not null, readout_crop double not null, codec varchar(40) not null, compression varchar(16) not null, bits int not null,
    mbps double not null comment 'Mbit/s', target varchar(24) not null, clip_limit_sec int null`,
    "recording modes of a model",
  ),
  step(
    "013",
    "figure",
    `mode_id uuid not null, kind varchar(16) not null comment 'rated or outside', ambient_c double null, limit_sec int not null,
    conditions text not null, source text not null`,
    "claims of others",
  ),
  step(
    "014",
    "test_condition",
    `name varchar(120) not null, ambient_c double not null comment 'nominal', tolerance_c double not null, sun varchar(16) not null, air varchar(16) not null,
    screen varchar(16) not null, power varchar(24) not null, power_off_setting varchar(16) not null`,
    "named conditions",
  ),
  step(
    "015",
    "protocol",
    `name varchar(120) not null, continuity json not null, checkpoint_sec int not null, checkpoint_after_warning_sec int not null, on_warning varchar(16) not null`,
    "named protocols",
  ),
  {
    name: "016-kit-version",
    up: `create table if not exists kit_version (
      entity varchar(24) not null, entity_id uuid not null, rev int not null, doc json not null,
      saved_ms bigint not null comment 'UTC milliseconds',
      primary key (entity, entity_id, rev)
    ) comment 'every version of every kit row; append-only'`,
    down: "drop table if exists kit_version",
  },
  {
    name: "017-unit-event",
    up: `create table if not exists unit_event (
      id uuid primary key, unit_id uuid not null, at_ms bigint not null, kind varchar(16) not null comment 'firmware, repair, fault or powered',
      body json not null, index (unit_id, at_ms)
    ) comment 'what happened to a body; append-only'`,
    down: "drop table if exists unit_event",
  },
  {
    name: "053-figure-stated",
    up: `alter table figure modify limit_sec int null comment 'null: no limit stated',
      add column if not exists stated varchar(16) null comment 'time, more than or no limit; null: time'`,
    down: "alter table figure drop column if exists stated, modify limit_sec int not null",
  },
  {
    name: "061-mode-chroma",
    up: "alter table mode add column if not exists chroma varchar(8) null comment 'null: not said'",
    down: "alter table mode drop column if exists chroma",
  },
];
