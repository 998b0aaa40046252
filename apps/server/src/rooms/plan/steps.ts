import type { Step } from "../../db/step.ts";

const added = (name: string, table: string, column: string, comment: string): Step => ({
  name,
  up: `alter table ${table} add column if not exists ${column} json null comment '${comment}'`,
  down: `alter table ${table} drop column if exists ${column}`,
});
const row = (name: string, table: string, columns: string, comment: string): Step => ({
  name,
  up: `create table if not exists ${table} (id uuid primary key, ${columns}, archived boolean not null default 0, rev int not null comment 'counts up with every save')
    comment '${comment}'`,
  down: `drop table if exists ${table}`,
});

export const planSteps: readonly Step[] = [
  added("042-model-traits", "camera_model", "traits", "mount, slots, battery, stabilisers; null: not said"),
  added("043-condition-settings", "test_condition", "settings", "what else moves heat or the picture; null: not said"),
  added("044-protocol-schools", "protocol", "schools", "load, cool-down, time constant, stop, swaps; null: the defaults"),
  row(
    "045-kit-item",
    "kit_item",
    "name varchar(120) not null, count int not null comment 'equal ones', fits varchar(40) not null, notes text not null, spec json not null",
    "lenses, cards, batteries, supplies, recorders, rigs, filters",
  ),
  row(
    "046-plan",
    "plan",
    "name varchar(120) not null, bench varchar(16) not null comment 'real, rehearsal or demo', cells json not null comment 'wanted trials'",
    "matrices of wanted trials",
  ),
  row(
    "047-plan-day",
    "plan_day",
    `name varchar(120) not null, plan_id uuid not null, date varchar(10) not null, zone varchar(64) not null, from_min int not null, to_min int not null,
    order_school varchar(16) not null, seed bigint not null, units json not null, sun json not null, weather json not null, chargers int not null,
    turnover_min double not null, choices json not null comment 'what the tester chose for single blocks', index (plan_id)`,
    "frames of test days; the schedule is worked out, never stored",
  ),
  added("048-unit-clips", "unit", "clips", "how it stamps its clips, and its clock; null: not asked yet"),
  added("049-figure-says", "figure", "says", "what a published figure tells of its conditions; null: nothing"),
];
