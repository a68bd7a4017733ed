/** How long every reader of text takes for ten times as much: in line with the length is ten times as long. */
import { READERS } from '../core/testing/readers.ts';
import { hr, quantile, type Row } from './numbers.ts';

const SHORT = 12_000;
const RUNS = [' ', 'a', '1,', '1 thru 2 ', '\n ', '"', '[LX 1'];
const TIMES = 5;

function timed(read: (text: string) => unknown, length: number): number {
  let sum = 0;
  for (const atom of RUNS) {
    const text = `${atom.repeat(Math.ceil(length / atom.length))}x`;
    const start = hr();
    read(text);
    sum += hr() - start;
  }
  return sum;
}

/** One row for each reader: the time of all runs at ten times the length, and how many times the short ones that is. */
export function measureReaders(): Row[] {
  return READERS.map(([what, read]) => {
    timed(read, SHORT);
    const short = Array.from({ length: TIMES }, () => timed(read, SHORT));
    const long = Array.from({ length: TIMES }, () => timed(read, SHORT * 10));
    const ratio = quantile(long, 0.5) / Math.max(0.05, quantile(short, 0.5));
    return {
      what: `${what}: ${RUNS.length} runs of ${(SHORT * 10) / 1000} kB`,
      median: quantile(long, 0.5),
      p99: quantile(long, 0.99),
      unit: 'ms',
      wanted: '',
      note: `${ratio.toFixed(1)} times as long as a tenth of them`,
    };
  });
}
