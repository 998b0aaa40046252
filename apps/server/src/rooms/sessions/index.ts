export { readSessions, sessionAggregate } from "./sessionStore.ts";
