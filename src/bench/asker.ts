/** Asks the same thing in even steps, in a process of its own, so that what the bench itself does takes nothing from it; says how long each answer took. */
import { hr } from './numbers.ts';

const [, , url = '', cookie = '', every = '20'] = process.argv;
let waits: number[] = [];
process.on('message', () => {
  process.send?.({ waits });
  waits = [];
});
process.on('disconnect', () => process.exit(0));
process.send?.({ ready: true });
async function ask(): Promise<void> {
  for (;;) {
    const start = hr();
    const send = (): Promise<Response> => fetch(url, { headers: { cookie } });
    const response = await send().catch(send);
    await response.arrayBuffer();
    if (!response.ok) throw new Error(`${url}: ${response.status}`);
    waits.push(hr() - start);
    await new Promise((resolve) => setTimeout(resolve, Number(every)));
  }
}
void ask();
