export { pairingSteps } from "./steps.ts";
