/** Values of a choice with their words. */
export const optionsOf = <T extends string>(
  values: readonly T[],
  words: Readonly<Record<T, string>>,
): { value: T; label: string }[] => values.map((value) => ({ value, label: words[value] }));
