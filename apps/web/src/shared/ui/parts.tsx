// Small parts: buttons, keys, rows of facts, notes. Hairlines instead of boxes.

import type { ButtonHTMLAttributes, ReactNode } from "react";

export function Button({
  tone = "plain",
  className = "",
  ...props
}: ButtonHTMLAttributes<HTMLButtonElement> & { tone?: "plain" | "main" | "quiet" }) {
  const tones = {
    plain: "border border-rule2 bg-key px-4 py-2",
    main: "border border-cool bg-cool px-5 py-2.5 text-ground font-semibold",
    quiet: "px-2 py-1 text-soft underline decoration-rule2 hover:text-ink",
  };
  return <button type="button" className={`rounded-md disabled:opacity-50 ${tones[tone]} ${className}`} {...props} />;
}

/** `onMain`: on a button in the main colour. */
export const Key = ({ children, onMain = false }: { children: ReactNode; onMain?: boolean }) => (
  <kbd
    className={`num rounded border px-1.5 text-[0.9rem] font-semibold ${onMain ? "border-ground text-ground" : "border-rule2 text-soft"}`}
    aria-hidden="true"
  >
    {children}
  </kbd>
);

/** A number with what it is, figures in their own column. */
export function Fact({ label, value, note }: { label: string; value: ReactNode; note?: ReactNode }) {
  return (
    <div className="hairline grid grid-cols-[7rem_1fr] items-baseline gap-x-3 py-1">
      <dt className="text-soft">{label}</dt>
      <dd>
        <span className="num text-lg leading-snug font-semibold">{value}</span>
        {note !== undefined && <span className="block text-sm leading-snug text-soft">{note}</span>}
      </dd>
    </div>
  );
}

/** `live`: it answers a press, and is read out when it appears. */
export function Note({ children, tone = "plain", live = false }: { children: ReactNode; tone?: "plain" | "alert"; live?: boolean }) {
  return (
    <p
      role={live ? "alert" : undefined}
      className={`border-l-4 py-1 pl-3 ${tone === "alert" ? "border-here text-alert" : "border-rule2 text-soft"}`}
    >
      {children}
    </p>
  );
}

export function PageHead({ title, sub, children }: { title: ReactNode; sub?: ReactNode; children?: ReactNode }) {
  return (
    <header className="mb-4 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-2">
      <div>
        <h1>{title}</h1>
        {sub !== undefined && <p className="text-soft">{sub}</p>}
      </div>
      <div className="no-print flex flex-wrap items-center gap-3">{children}</div>
    </header>
  );
}

export function Loading({ what }: { what: string }) {
  return <p className="text-soft" role="status">{`Reading ${what} …`}</p>;
}

export function Trouble({ sentence, retry }: { sentence: string; retry: () => void }) {
  return (
    <div role="alert" className="my-4 space-y-2">
      <Note tone="alert">{sentence}</Note>
      <Button onClick={retry}>Try again</Button>
    </div>
  );
}
