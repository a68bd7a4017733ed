/** Addresses that only this machine reaches. */
export const isLoopback = (host: string): boolean =>
  host === 'localhost' || host === '::1' || host.startsWith('127.');
