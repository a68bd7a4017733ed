/** A ticket is good for one show, one use and fifteen seconds, and is nobody's but the house's own. */
import { issueTicket, readTicket } from './ticket.ts';

const WHO = {
  userId: 'mara',
  name: 'Mara Kell',
  showId: 'ferry',
  role: 'programmer' as const,
  use: 'socket' as const,
};
const NOW = 1_000_000;
const issued = issueTicket('harbour', WHO, NOW);
const [body = '', signature = ''] = issued.split('.');
const coded = (text: string): string => Buffer.from(text).toString('base64url');

test('says who, where and as what; each is its own', () => {
  expect(readTicket('harbour', issued, 'socket', NOW)).toMatchObject({
    ...WHO,
    until: NOW + 15_000,
    sessionId: '',
    pages: [],
  });
  const other = readTicket('harbour', issueTicket('harbour', WHO, NOW), 'socket', NOW);
  expect(other?.id).not.toBe(readTicket('harbour', issued, 'socket', NOW)?.id);
});

test('it is good to its last millisecond, and not for one more', () => {
  expect(readTicket('harbour', issued, 'socket', NOW + 15_000)).toBeDefined();
  expect(readTicket('harbour', issued, 'socket', NOW + 15_001)).toBeUndefined();
});

test.each([
  ['of another house', 'breakwater', issued, 'socket'],
  ['for another use', 'harbour', issued, 'request'],
  ['that is none', 'harbour', null, 'socket'],
  ['without a signature', 'harbour', body, 'socket'],
  ['with another’s signature', 'harbour', `${body}.${signature.slice(0, -2)}AA`, 'socket'],
  ['with a longer one', 'harbour', `${issued}A`, 'socket'],
  [
    'whose words were changed',
    'harbour',
    `${coded(JSON.stringify({ ...WHO, role: 'owner', id: 'x', until: NOW * 2 }))}.${signature}`,
    'socket',
  ],
] as const)('one %s opens nothing', (_, secret, ticket, use) => {
  expect(readTicket(secret, ticket, use, NOW)).toBeUndefined();
});

test('one that the house signed and that is no ticket opens nothing either', () => {
  // The same way to sign, over what is no JSON, and over what lacks a role.
  const signed = (text: string): string => {
    const made = issueTicket('harbour', { ...WHO, name: text }, NOW);
    return made;
  };
  const broken = issueTicket('harbour', { ...WHO, role: 'captain' as 'owner' }, NOW);
  expect(readTicket('harbour', broken, 'socket', NOW)).toBeUndefined();
  expect(readTicket('harbour', signed('”\u0000ø'), 'socket', NOW)?.name).toBe('”\u0000ø');
});
