/** One DDL step up and the way back. */
export interface Step {
  name: string;
  up: string;
  down: string;
}

/** Keys that come from outside compare by bytes: "A" and "a" are two. */
export const byBytes = (n: string, table: string, column: string, type: string): Step => ({
  name: `${n}-${table.replaceAll("_", "-")}-${column.replaceAll("_", "-")}-bytes`,
  up: `alter table ${table} modify ${column} ${type} character set utf8mb4 collate utf8mb4_bin not null`,
  down: `alter table ${table} modify ${column} ${type} not null`,
});
