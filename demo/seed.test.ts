/** The demo's published passwords, against the real PostgreSQL and the real accounts. */
import { DEMO_PASSWORD } from '../src/core/demo-accounts.ts';
import { makeAuth, type Auth } from '../src/store/auth.ts';
import { ownDatabase } from '../src/store/own-database.ts';
import { guardDemoAccounts, seedAccounts } from './seed.ts';

let own: Awaited<ReturnType<typeof ownDatabase>>;
let auth: Auth;
beforeAll(async () => {
  own = await ownDatabase();
  auth = makeAuth(own.db, { secret: 'a secret of this test alone', baseURL: 'http://127.0.0.1' });
});
afterAll(() => own.drop());
const signIn = (email: string, password: string): Promise<boolean> => auth.api.signInEmail({ body: { email, password } }).then(() => true, () => false);

test('a folder that was seeded on this machine and is opened to a network: published passwords end, with their sessions; one that was changed stays', async () => {
  await seedAccounts(auth, own.db, { demo: true, known: true });
  const [owner, viewer] = ['owner@tidewater.example', 'viewer@tidewater.example'];
  expect(await signIn(owner, DEMO_PASSWORD)).toBe(true);
  // Somebody gave theirs a word of its own.
  const { password } = await auth.$context;
  const user = await own.db.selectFrom('user').select('id').where('email', '=', viewer).executeTakeFirstOrThrow();
  await own.db.updateTable('account').set({ password: await password.hash('a word of my own') }).where('userId', '=', user.id).execute();
  const { shown } = await guardDemoAccounts(auth, own.db, true);
  expect(shown.map((a) => a.email).sort()).toEqual(['operator@tidewater.example', owner, 'programmer@tidewater.example', 'volunteer@tidewater.example']);
  expect([await signIn(owner, DEMO_PASSWORD), await signIn(owner, shown.find((a) => a.email === owner)?.password ?? ''), await signIn(viewer, 'a word of my own')]).toEqual([false, true, true]);
  // Opened again: nothing is made anew, and what was told once stays.
  expect((await guardDemoAccounts(auth, own.db, true)).shown).toEqual([]);
  expect(await signIn(owner, shown.find((a) => a.email === owner)?.password ?? '')).toBe(true);
  // Closed again.
  await guardDemoAccounts(auth, own.db, false);
  expect(await signIn(owner, DEMO_PASSWORD)).toBe(true);
}, 60_000);
