// Numbers as people type them.

/** Null where it is empty or no number; a comma may stand for the point. */
export const numberIn = (text: string): number | null => {
  const value = Number(text.trim().replace(",", "."));
  return text.trim() === "" || !Number.isFinite(value) ? null : value;
};
