/** What Wingman does at the sizes that it is made for. Prints a table and writes bench.json. */
import { writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { connect } from '../store/database.ts';
import { measureBook } from './book.ts';
import { measureMerge, measurePeople, measureTakeover } from './crew.ts';
import { measureFiles } from './files.ts';
import { measureHands } from './hands.ts';
import { measureHostile } from './hostile.ts';
import { LARGE_SHOW, measureEdits, measureGo, measureOpening } from './house.ts';
import type { Row } from './numbers.ts';
import { measureOutput } from './output.ts';
import { measureReaders } from './parse.ts';
import { measureRig } from './rig.ts';
import { measureEffects, measureStage } from './stage.ts';
import { measureTime } from './time.ts';

const environment = {
  url: process.env.WINGMAN_URL ?? '',
  database: process.env.DATABASE_URL ?? '',
  out: process.env.WINGMAN_BENCH_OUT ?? 'bench.json',
};

const rows: Row[] = [];
const add = (more: Row[]): void => {
  for (const r of more) {
    rows.push(r);
    console.log(
      `${r.what.padEnd(58)} ${r.median.toFixed(2).padStart(9)} ${r.p99.toFixed(2).padStart(9)} ${r.unit.padEnd(4)} ${r.wanted.padEnd(12)} ${r.note ?? ''}`,
    );
  }
};

console.log(`${cpus().length} cores, Node ${process.versions.node}\n`);
console.log(`${''.padEnd(58)} ${'median'.padStart(9)} ${'p99'.padStart(9)} unit wanted`);
const { db } = connect(environment.database, 4);
const { url } = environment;
/** In their order: the book and the merge use the large show that the opening makes. */
const PARTS: Record<string, () => Promise<Row[]> | Row[]> = {
  output: async () => [
    ...(await measureOutput(4)),
    ...(await measureOutput(64)),
    ...(await measureOutput(256)),
  ],
  rig: () => measureRig(url),
  stage: () => measureStage(url, db),
  effects: () => measureEffects(url),
  hands: () => measureHands(url),
  time: () => measureTime(url),
  go: () => measureGo(url),
  edits: () => measureEdits(url),
  opening: () => measureOpening(url, db),
  book: () => measureBook(url, LARGE_SHOW),
  people: () => measurePeople(url),
  merge: () => measureMerge(url, LARGE_SHOW),
  hostile: () => measureHostile(url),
  takeover: () => measureTakeover(url),
  files: measureFiles,
  readers: measureReaders,
};
const wanted = process.argv.slice(2);
const unknown = wanted.filter((name) => !(name in PARTS));
if (unknown.length > 0) {
  console.error(
    `There is nothing to measure called ${unknown.join(', ')}. Parts: ${Object.keys(PARTS).join(', ')}.`,
  );
  process.exit(2);
}
for (const [name, measure] of Object.entries(PARTS))
  if (wanted.length === 0 || wanted.includes(name)) add(await measure());
await db.destroy();
writeFileSync(
  environment.out,
  JSON.stringify({ cores: cpus().length, node: process.versions.node, rows }, null, 2),
);
console.log(`\nWritten to ${environment.out}`);
process.exit(0);
