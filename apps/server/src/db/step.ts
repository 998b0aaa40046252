/** One DDL step up and the way back. */
export interface Step {
  name: string;
  up: string;
  down: string;
}
