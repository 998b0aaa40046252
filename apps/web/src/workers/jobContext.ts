/** What a job is given besides its input. */
export interface JobContext {
  /** What was sent before the question, so that copying much never holds the page. */
  parts: readonly unknown[];
  onProgress: (done: number, of: number) => void;
}
