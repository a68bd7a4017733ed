/** What is typed about where universes go, as the edit has it. */
import { runOf } from './RouteForm';

const draft = {
  universes: '1',
  protocol: 'sacn' as const,
  to: 'multicast' as const,
  address: '',
  wire: '',
  priority: '100',
  instead: true,
  others: false,
};

test.each([
  [draft, { from: 1, to: 1, wire: 1, destination: 'multicast' }],
  [
    { ...draft, universes: '3-8' },
    { from: 3, to: 8, wire: 3 },
  ],
  [
    { ...draft, universes: '3 thru 8', wire: '11' },
    { from: 3, to: 8, wire: 11 },
  ],
  [
    { ...draft, protocol: 'artnet' as const, to: 'unicast' as const, address: '10.0.0.7' },
    { wire: 0, destination: '10.0.0.7' },
  ],
])('%j', (typed, run) => expect(runOf(typed)).toMatchObject(run));
