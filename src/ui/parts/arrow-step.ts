const STEPS: Readonly<Record<string, -1 | 1>> = {
  ArrowRight: 1,
  ArrowUp: 1,
  ArrowLeft: -1,
  ArrowDown: -1,
};

/** Which way an arrow key steps a value: 1 up, −1 down, 0 for any other key. */
export const arrowStep = (key: string): -1 | 0 | 1 => STEPS[key] ?? 0;
