/** Accounts and sessions, through better-auth on our own pool. */
import { betterAuth } from 'better-auth';
import type { Database } from './database.ts';

const SESSION_DAYS = 14;
const MIN_PASSWORD = 8;

/** What signing in needs of a house. */
export interface AuthOptions {
  secret: string;
  /** Where browsers reach Wingman, for cookies and origin checks. */
  baseURL: string;
}

/** Accounts, sessions and cookies, in the house’s own database. */
export function makeAuth(db: Database, { secret, baseURL }: AuthOptions) {
  return betterAuth({
    appName: 'Wingman',
    secret,
    baseURL,
    // A house reaches its desk by more than one name; the page that posts must come from the host that it posts to.
    trustedOrigins: (request?: Request) => {
      const host = request?.headers.get('host');
      return host ? [baseURL, `http://${host}`, `https://${host}`] : [baseURL];
    },
    database: { db, type: 'postgres' },
    emailAndPassword: { enabled: true, minPasswordLength: MIN_PASSWORD, disableSignUp: true },
    session: { expiresIn: SESSION_DAYS * 24 * 3600 },
    rateLimit: {
      enabled: true,
      storage: 'database',
      window: 60,
      max: 600,
      customRules: { '/sign-in/email': { window: 60, max: 60 } },
    },
    advanced: { cookiePrefix: 'wingman', ipAddress: { ipAddressHeaders: ['x-wingman-client'] } },
    telemetry: { enabled: false },
  });
}

/** What `makeAuth` made. */
export type Auth = ReturnType<typeof makeAuth>;

/** Makes an account, or gives back the one that has this address. */
export async function ensureUser(
  auth: Auth,
  db: Database,
  person: { name: string; email: string; password: string },
): Promise<string> {
  const known = await db
    .selectFrom('user')
    .select('id')
    .where('email', '=', person.email)
    .executeTakeFirst();
  if (known) return known.id;
  const context = await auth.$context;
  const user = await context.internalAdapter.createUser(
    { name: person.name, email: person.email, emailVerified: true },
    { method: 'admin' },
  );
  await context.internalAdapter.linkAccount({
    userId: user.id,
    providerId: 'credential',
    accountId: user.id,
    password: await context.password.hash(person.password),
  });
  return user.id;
}
