/** Waits for something to hold, in tests of real processes and sockets. @throws with what it was, when it never does */
export async function until(
  holds: () => boolean | Promise<boolean>,
  patience_ms = 8000,
): Promise<void> {
  const end = Date.now() + patience_ms;
  while (!(await holds())) {
    if (Date.now() > end) throw new Error(`in vain: ${holds.toString()}`);
    await new Promise((done) => setTimeout(done, 20));
  }
}
