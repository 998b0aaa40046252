import type { Step } from "../db/step.ts";

export const workspaceSteps: readonly Step[] = [
  {
    name: "001-workspace",
    up: `create table if not exists workspace (
      id tinyint primary key comment 'always 1',
      seeded_at datetime(3) null comment 'UTC; written last when the demo is in',
      secret char(64) not null comment 'signs the passphrase cookie'
    ) comment 'one row for this bench'`,
    down: "drop table if exists workspace",
  },
  {
    // Logins are rows now; a copy of the database holds nothing that opens it.
    name: "060-workspace-no-secret",
    up: "alter table workspace drop column if exists secret",
    down: "alter table workspace add column if not exists secret char(64) not null default ''",
  },
];
