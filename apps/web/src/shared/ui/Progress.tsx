/** How far a queue is, 0 to `max`. */
export const Progress = ({ label, value, max }: { label: string; value: number; max: number }) => (
  <progress
    aria-label={label}
    value={value}
    max={max}
    className="h-3 w-56 appearance-none overflow-hidden rounded-sm bg-rule [&::-moz-progress-bar]:bg-cool [&::-webkit-progress-bar]:bg-rule [&::-webkit-progress-value]:bg-cool"
  />
);
