/** What a person can put right: its sentence is shown, without a stack. */
export class SetupError extends Error {}
