/** The demo's accounts and their published password, which holds on this machine alone. */
export const DEMO_PASSWORD = 'tidewater';
export const DEMO_ACCOUNTS: readonly string[] = [
  'owner',
  'programmer',
  'operator',
  'viewer',
  'volunteer',
].map((who) => `${who}@tidewater.example`);
