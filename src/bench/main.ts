/** What Wingman does at the sizes that it is made for. Prints a table and writes bench.json. */
import { writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { connect } from '../store/database.ts';
import { measureBook } from './book.ts';
import { measureMerge, measurePeople, measureTakeover } from './crew.ts';
import { LARGE_SHOW, measureEdits, measureGo, measureOpening } from './house.ts';
import type { Row } from './numbers.ts';
import { measureOutput } from './output.ts';
import { measureRig } from './rig.ts';
import { measureStage } from './stage.ts';

const environment = { url: process.env.WINGMAN_URL ?? '', database: process.env.DATABASE_URL ?? '', out: process.env.WINGMAN_BENCH_OUT ?? 'bench.json' };

const rows: Row[] = [];
const add = (more: Row[]): void => {
  for (const r of more) {
    rows.push(r);
    console.log(`${r.what.padEnd(58)} ${r.median.toFixed(2).padStart(9)} ${r.p99.toFixed(2).padStart(9)} ${r.unit.padEnd(4)} ${r.wanted.padEnd(12)} ${r.note ?? ''}`);
  }
};

console.log(`${cpus().length} cores, Node ${process.versions.node}\n`);
console.log(`${''.padEnd(58)} ${'median'.padStart(9)} ${'p99'.padStart(9)} unit wanted`);
for (const universes of [4, 64, 256]) add(await measureOutput(universes));
const { db } = connect(environment.database, 4);
add(await measureRig(environment.url));
add(await measureStage(environment.url, db));
add(await measureGo(environment.url));
add(await measureEdits(environment.url));
add(await measureOpening(environment.url, db));
add(await measureBook(environment.url, LARGE_SHOW));
add(await measurePeople(environment.url));
add(await measureMerge(environment.url, LARGE_SHOW));
add(await measureTakeover(environment.url, process.env.WINGMAN_ROOT ?? process.cwd()));
await db.destroy();
writeFileSync(environment.out, JSON.stringify({ cores: cpus().length, node: process.versions.node, rows }, null, 2));
console.log(`\nWritten to ${environment.out}`);
process.exit(0);
