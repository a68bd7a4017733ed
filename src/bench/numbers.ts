/** One line of the table. */
export interface Row {
  what: string;
  median: number;
  p99: number;
  unit: string;
  wanted: string;
  note?: string;
}

/** @param q 0…1 @returns the value below which this share of the values lies */
export function quantile(values: readonly number[], q: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * q))] ?? NaN;
}

/** Values as a line of the table. */
export const row = (
  what: string,
  values: readonly number[],
  unit: string,
  wanted = '',
  note = '',
): Row => ({
  what,
  median: quantile(values, 0.5),
  p99: quantile(values, 0.99),
  unit,
  wanted,
  note,
});

/** Monotonic milliseconds, the same for all processes of a machine. */
export const hr = (): number => Number(process.hrtime.bigint()) / 1e6;

export const sleep = (ms: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, ms));
