/** `npm run docs`: writes what follows from definitions into docs/. */
import { readFileSync, writeFileSync } from 'node:fs';
import { GENERATED, withPart } from './generated.ts';

for (const { file, name, text } of GENERATED)
  writeFileSync(file, withPart(readFileSync(file, 'utf8'), name, text()));
