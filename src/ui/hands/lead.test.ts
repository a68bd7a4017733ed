/** @jest-environment jsdom */
/** Of several windows one plays what a hand does. */
import { askToLead, isLearnedAnywhere, tellLearning } from './lead';

/** Locks as a browser has them: one has it, the others wait in their order. */
class Locks {
  private held = false;
  private readonly waiting: (() => void)[] = [];
  request = (
    _name: string,
    { signal }: { signal: AbortSignal },
    work: () => Promise<void>,
  ): Promise<void> =>
    new Promise((done, failed) => {
      const begin = (): void => {
        this.held = true;
        void work().then(() => {
          this.held = false;
          this.waiting.shift()?.();
          done();
        });
      };
      if (!this.held) begin();
      else {
        this.waiting.push(begin);
        signal.addEventListener('abort', () => {
          this.waiting.splice(this.waiting.indexOf(begin), 1);
          failed(new Error('aborted'));
        });
      }
    });
}
const settle = (): Promise<void> => new Promise((done) => setTimeout(done, 5));

test('the first window leads, the next when it is closed; one that stopped waiting never does', async () => {
  Object.defineProperty(navigator, 'locks', { value: new Locks(), configurable: true });
  const leads: string[] = [];
  const first = askToLead(() => leads.push('first'));
  const second = askToLead(() => leads.push('second'));
  askToLead(() => leads.push('third'));
  expect(leads).toEqual(['first']);
  second();
  await settle();
  first();
  await settle();
  expect(leads).toEqual(['first', 'third']);
});

test('where a browser knows no locks a window leads at once', () => {
  Object.defineProperty(navigator, 'locks', { value: undefined, configurable: true });
  const lead = jest.fn();
  askToLead(lead);
  expect(lead).toHaveBeenCalledTimes(1);
});

test('a hand that one window learns with plays in none; one that was ended meanwhile stands in no way for long', () => {
  tellLearning('wing');
  expect([isLearnedAnywhere('wing'), isLearnedAnywhere('keys')]).toEqual([true, false]);
  tellLearning(null);
  expect(isLearnedAnywhere('wing')).toBe(false);
  window.localStorage.setItem('wingman-hand-learns', `${Date.now() - 600_000} wing`);
  expect(isLearnedAnywhere('wing')).toBe(false);
});
