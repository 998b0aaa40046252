// Answers of pure functions kept by what was asked, so that another confidence or one more mark works out only what it changes.

/**
 * Like `answer`, but of the `most` questions asked last none is worked out twice. `keyOf` must tell unequal questions apart. Answers are shared: whoever
 * gets one must not change it. What `answer` throws is not kept.
 */
export function kept<Q extends readonly unknown[], A>(most: number, keyOf: (...q: Q) => string, answer: (...q: Q) => A): (...q: Q) => A {
  if (!(most >= 1)) throw new RangeError(`most must be at least 1, got ${most}`);
  const answers = new Map<string, { answer: A }>();
  return (...q) => {
    const key = keyOf(...q);
    const found = answers.get(key) ?? { answer: answer(...q) };
    // A map keeps the order of what was set: the first is the one not asked for longest.
    answers.delete(key);
    answers.set(key, found);
    if (answers.size > most) answers.delete(answers.keys().next().value as string);
    return found.answer;
  };
}
