// Form fields: label, control, unit and the sentence of what is wrong, tied together for screen readers.

import type { InputHTMLAttributes, ReactNode, SelectHTMLAttributes } from "react";
import { useId } from "react";

interface Frame {
  label: string;
  error?: string | undefined;
  hint?: string | undefined;
  unit?: string | undefined;
}

function Framed({
  label,
  error,
  hint,
  unit,
  children,
}: Frame & { children: (ids: { id: string; describedBy: string | undefined }) => ReactNode }) {
  const id = useId();
  const describedBy = error !== undefined ? `${id}-error` : hint !== undefined ? `${id}-hint` : undefined;
  return (
    <div>
      <label htmlFor={id} className="block text-sm font-semibold">
        {label}
        {unit !== undefined && <span className="font-normal text-soft"> ({unit})</span>}
      </label>
      {children({ id, describedBy })}
      {error !== undefined ? (
        <p id={`${id}-error`} className="mt-1 text-sm text-alert">
          {error}
        </p>
      ) : (
        hint !== undefined && (
          <p id={`${id}-hint`} className="mt-1 text-sm text-soft">
            {hint}
          </p>
        )
      )}
    </div>
  );
}

/** `options`: usual answers of a field with a `list`; another may be typed. */
export function TextField({
  label,
  error,
  hint,
  unit,
  options,
  ...props
}: Frame & InputHTMLAttributes<HTMLInputElement> & { options?: readonly string[] | undefined }) {
  return (
    <Framed label={label} error={error} hint={hint} unit={unit}>
      {({ id, describedBy }) => (
        <>
          <input
            id={id}
            aria-describedby={describedBy}
            aria-invalid={error !== undefined}
            className={`mt-1 w-full ${props.type === "number" ? "num" : ""}`}
            {...props}
          />
          {options !== undefined && (
            <datalist id={props.list}>
              {options.map((words) => (
                <option key={words} value={words} />
              ))}
            </datalist>
          )}
        </>
      )}
    </Framed>
  );
}

export function SelectField({
  label,
  error,
  hint,
  options,
  ...props
}: Frame & SelectHTMLAttributes<HTMLSelectElement> & { options: readonly (readonly [string, string])[] }) {
  return (
    <Framed label={label} error={error} hint={hint}>
      {({ id, describedBy }) => (
        <select id={id} aria-describedby={describedBy} aria-invalid={error !== undefined} className="mt-1 w-full" {...props}>
          {options.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      )}
    </Framed>
  );
}

/** A closed list whose words are its values. */
export const wordsOf = (values: readonly string[]): (readonly [string, string])[] => values.map((v) => [v, v]);
