/**
 * Samples mutations: one small lie in one file at a time, and whether a test notices. `npx tsx src/bench/mutations.ts
 * src/core 40 [seed]` in a copy of the project: files are changed in place, and put back. Whoever uses the file is tested,
 * wherever it is, with a database where it wants one.
 */
import { spawnSync } from 'node:child_process';
import {
  chmodSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join, relative } from 'node:path';
import ts from 'typescript';
import { ensurePostgres } from '../launcher/packages.ts';
import { startCluster } from '../launcher/postgres.ts';

/** Long enough for all tests of a folder on a slow machine: what runs into it does not end by itself. */
const PATIENCE_MS = 900_000;

interface Mutation {
  file: string;
  at: number;
  was: string;
  becomes: string;
}

/** What stands for what. */
const OPERATORS: Readonly<Record<string, string>> = {
  '<': '<=',
  '<=': '<',
  '>': '>=',
  '>=': '>',
  '===': '!==',
  '!==': '===',
  '&&': '||',
  '||': '&&',
  '+': '-',
  '-': '+',
  '*': '/',
  '??': '&&',
};
/** What no unit can run, and what is itself a test or made for one: a process’s own beginning is run by the journeys. */
const NOT_SEEN =
  /\/main\.ts$|process\.ts$|\.test\.tsx?$|\.d\.ts$|\/testing\/|\/golden\.ts$|simulated-|two-cards/;

function sources(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return sources(path);
    return /\.tsx?$/.test(name) && !NOT_SEEN.test(path) ? [path] : [];
  });
}

function tests(folder: string): string[] {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.test\.tsx?$/.test(name))
    .map((name) => join(folder, name));
}

/** What stands for a place of an array that is always there, since the type checker wants something: `levels[slot] ?? 0`. */
function isNeverReached(node: ts.Node): boolean {
  const { parent } = node;
  return (
    ts.isBinaryExpression(parent) &&
    parent.operatorToken.kind === ts.SyntaxKind.QuestionQuestionToken &&
    parent.right === node &&
    ts.isElementAccessExpression(parent.left)
  );
}

/** Every lie that a file could tell. */
function mutationsOf(file: string): Mutation[] {
  const text = readFileSync(file, 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const found: Mutation[] = [];
  const put = (node: ts.Node, becomes: string): void => {
    found.push({ file, at: node.getStart(source), was: node.getText(source), becomes });
  };
  const look = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node)) return;
    if (ts.isBinaryExpression(node)) {
      const becomes = OPERATORS[node.operatorToken.getText(source)];
      const isText = [node.left, node.right].some((n) => ts.isStringLiteralLike(n));
      if (becomes !== undefined && !isText) put(node.operatorToken, becomes);
    } else if (node.kind === ts.SyntaxKind.TrueKeyword) put(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) put(node, 'true');
    else if (ts.isNumericLiteral(node)) {
      if (!isNeverReached(node)) put(node, `(${node.text} + 1)`);
    } else if (ts.isIfStatement(node))
      put(node.expression, `!(${node.expression.getText(source)})`);
    else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      put(node, node.operand.getText(source));
    ts.forEachChild(node, look);
  };
  look(source);
  return found;
}

/** A number from 0 to 1 that is the same for the same seed. */
function chance(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
}

function sample(folder: string, count: number, seed: number): Mutation[] {
  const all = sources(folder).flatMap(mutationsOf);
  const next = chance(seed);
  const picked = new Set<Mutation>();
  while (picked.size < Math.min(count, all.length)) {
    const one = all[Math.floor(next() * all.length)];
    if (one) picked.add(one);
  }
  return [...picked];
}

/** Tests that name the file, in an import or as what they start: the likeliest to notice. */
function nearest(file: string): string[] {
  const named = new RegExp(`'[^']*/${basename(file).replaceAll('.', '\\.')}'`);
  return tests('src').filter((test) => named.test(readFileSync(test, 'utf8')));
}

/** Whether a test of what uses the file fails: those nearest to it are asked first, then everybody. */
function isNoticed({ file, at, was, becomes }: Mutation, database: string): boolean {
  const text = readFileSync(file, 'utf8');
  const isFailed = (...which: string[]): boolean =>
    spawnSync(process.execPath, [...JEST, ...which], {
      timeout: PATIENCE_MS,
      stdio: 'ignore',
      env: { ...process.env, WINGMAN_TEST_DATABASE: database, NODE_ENV: 'test' },
    }).status !== 0;
  const near = nearest(file);
  writeFileSync(file, text.slice(0, at) + becomes + text.slice(at + was.length));
  try {
    return (
      (near.length > 0 && isFailed('--runTestsByPath', ...near)) ||
      isFailed('--findRelatedTests', file)
    );
  } finally {
    writeFileSync(file, text);
  }
}

const JEST = [
  '--experimental-vm-modules',
  '--no-warnings',
  'node_modules/jest/bin/jest.js',
  '--selectProjects=unit',
  '--bail',
  '--forceExit',
  // What no test uses, no test notices.
  '--passWithNoTests',
];

async function main(): Promise<void> {
  const [folder = 'src/core', count = '40', seed = '1'] = process.argv.slice(2);
  const scratch = mkdtempSync(join(tmpdir(), 'wingman-lies-'));
  chmodSync(scratch, 0o711);
  const data = join(scratch, 'database');
  mkdirSync(data, { mode: 0o711 });
  const cluster = await startCluster(
    ensurePostgres(),
    data,
    openSync(join(scratch, 'postgres.log'), 'a'),
  );
  try {
    tell(folder, sample(folder, Number(count), Number(seed)), cluster.url);
  } finally {
    await cluster.stop();
    rmSync(scratch, { recursive: true, force: true });
  }
}

function tell(folder: string, lies: readonly Mutation[], database: string): void {
  let noticed = 0;
  let tried = 0;
  for (const mutation of lies) {
    const told = isNoticed(mutation, database);
    tried++;
    if (told) noticed++;
    const line = readFileSync(mutation.file, 'utf8').slice(0, mutation.at).split('\n').length;
    const where = `${relative('.', mutation.file)}:${line}`;
    const what = `${mutation.was.slice(0, 60)} → ${mutation.becomes.slice(0, 60)}`;
    console.log(`${told ? 'noticed ' : 'SURVIVED'} ${where}  ${what}`);
  }
  console.log(`${folder}: ${noticed} of ${tried}, ${Math.round((noticed / tried) * 100)} %`);
}

await main();
