/** Waits for something to hold, in tests of real processes and sockets. @throws with what it was, when it never does */
export async function until(holds: () => boolean, patience_ms = 8000): Promise<void> {
  for (
    const end = Date.now() + patience_ms;
    !holds();
    await new Promise((done) => setTimeout(done, 20))
  )
    if (Date.now() > end) throw new Error(`in vain: ${holds.toString()}`);
}
