/** Rows by their numbers. */
export const rowsByNumber = <T extends { number: number }>(rows: ReadonlyMap<string, T>): T[] =>
  [...rows.values()].sort((a, b) => a.number - b.number);
