export function supervise(options: {
  script: string;
  env: NodeJS.ProcessEnv;
  onUp: (server: { address: string; pid: number }) => void;
  say: (line: string) => void;
  firstPauseMs?: number;
  longestPauseMs?: number;
}): Promise<number>;
