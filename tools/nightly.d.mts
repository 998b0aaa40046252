export const KEPT: number;
export function copyName(bench: "own" | "demo", day: string): string;
export function dueCopy(now: Date, bench: "own" | "demo", names: readonly string[]): string | null;
export function outdated(bench: "own" | "demo", names: readonly string[]): string[];
export function nightlyCopies(options: {
  folder: string;
  bench: "own" | "demo";
  backup: string;
  env: NodeJS.ProcessEnv;
  say: (line: string) => void;
  now?: () => Date;
  lookMs?: number;
}): () => void;
