import { clockWithin, heardPong, newPlayer, playerNow, positionAt } from './player-clock';

afterEach(newPlayer);

test('the answer that came back soonest says the clock, not the last one', () => {
  expect(playerNow(0)).toBeUndefined();
  expect(clockWithin()).toBe(Infinity);
  // 5000 ahead; 4 ms there and back, then 80 with all of it on the way here.
  heardPong(100, 5102, 104);
  heardPong(200, 5201, 280);
  expect(playerNow(300)).toBe(5300);
  expect(clockWithin()).toBe(2);
});

test('what was heard long ago is forgotten, and with a new player all of it', () => {
  heardPong(0, 1000, 0);
  for (let i = 1; i <= 16; i++) heardPong(i * 100, i * 100 + 1010, i * 100 + 10);
  expect(playerNow(5000)).toBe(6005);
  newPlayer();
  expect(playerNow(5000)).toBeUndefined();
});

test('a track goes on from when it was told, at its rate, and stands where it stands', () => {
  const told = { position_s: 10, told_ms: 2000, runs: true };
  expect(positionAt(told, 0.5, 4000)).toBe(11);
  expect(positionAt({ ...told, runs: false }, 1, 4000)).toBe(10);
  // Before it was told it was further back: sound that waits for light asks for that.
  expect(positionAt(told, 1, 1990)).toBeCloseTo(9.99);
  expect(positionAt(told, 1, undefined)).toBe(10);
});
