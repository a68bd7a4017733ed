/**
 * What is said of the first case that holds; `otherwise` where none does. A table of cases is read from the top, as a
 * nest of conditions is not (first-so.test.ts).
 */
export const firstSo = <T>(cases: readonly (readonly [boolean, T])[], otherwise: T): T =>
  cases.find(([holds]) => holds)?.[1] ?? otherwise;
