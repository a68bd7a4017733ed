/** Two cards in one machine: what leaves by the chosen one, as the system counts it. Needs namespaces; without them it says so. */
import { spawnSync } from 'node:child_process';
import { join, resolve } from 'node:path';

const ROOT = resolve(process.cwd());

const SETUP = `
set -e
mount -t sysfs sysfs /sys
sysctl -qw net.ipv6.conf.all.disable_ipv6=1 net.ipv6.conf.default.disable_ipv6=1 || true
ip link set lo up
for card in lights office; do ip link add $card type veth peer name $card-end; ip link set $card-end up; ip link set $card up; done
ip addr add 10.20.0.5/16 brd + dev lights
ip addr add 192.168.4.130/25 brd + dev office
`;
const inside = (script: string) =>
  spawnSync('unshare', ['-rnm', 'sh', '-c', script], { encoding: 'utf8', timeout: 55_000 });

test('light leaves by the card that was chosen and by no other; a cable that is pulled is said, and taken up again', () => {
  const can = inside(`${SETUP} ip -br addr`);
  if (can.status !== 0) {
    console.warn(
      `Skipped: this machine has no network namespaces to try two cards in (${can.stderr.trim() || String(can.error)}).`,
    );
    return;
  }
  const tsx = join(ROOT, 'node_modules/.bin/tsx');
  const ran = inside(`${SETUP} exec ${tsx} ${join(ROOT, 'src/player/network/two-cards.ts')}`);
  expect([ran.status, ran.stderr]).toEqual([0, '']);
  const seen = JSON.parse(ran.stdout) as Record<
    string,
    { lights: number; office: number; problem: string | null }
  >;
  expect(seen.cards).toEqual([
    {
      name: 'lights',
      addresses: [{ address: '10.20.0.5', netmask: '255.255.0.0' }],
      link: 'up',
      isOwn: false,
    },
    {
      name: 'office',
      addresses: [{ address: '192.168.4.130', netmask: '255.255.255.128' }],
      link: 'up',
      isOwn: false,
    },
  ]);
  const left = (of: string): unknown => {
    const { lights, office, problem } = seen[of] ?? {};
    return { lights, office, problem };
  };
  expect(left('multicastByLights')).toEqual({ lights: 40, office: 0, problem: null });
  expect(left('multicastByOffice')).toEqual({ lights: 0, office: 40, problem: null });
  expect(left('broadcastByLights')).toEqual({ lights: 40, office: 0, problem: null });
  expect(left('pulled')).toEqual({
    lights: 0,
    office: 0,
    problem: 'No cable in the card “lights”: nothing leaves.',
  });
  expect(left('backAgain')).toEqual({ lights: 40, office: 0, problem: null });
});
