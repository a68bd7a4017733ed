/** Lets a process answer others in between, in something that takes long. */
export const breathe = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));
