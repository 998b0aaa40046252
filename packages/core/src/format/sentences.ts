// Names put into a sentence.

/** "a, b and c"; one alone; empty of none. */
export const listWords = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? "") : `${names.slice(0, -1).join(", ")} and ${names.at(-1) ?? ""}`;

/** The first letter large; the rest as it is. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
