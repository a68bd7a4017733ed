/**
 * What a schema finds wrong, as a sentence of people: which field in its own word, and what it may be. A schema's own
 * messages are sentences already and stay as they are.
 */
import { z } from 'zod';

/** Stands before a half sentence that still needs the name of its field. */
const HALF = '\u2063';
const WORDS: Record<string, string> = {
  up_s: 'up time',
  down_s: 'down time',
  delay_s: 'delay',
  fade_s: 'fade',
  follow_s: 'follow time',
  after_s: 'time after the end',
  back_s: 'time back',
  release_s: 'release time',
  typeId: 'type',
  listId: 'list',
  cueId: 'cue',
  fixtureId: 'fixture',
  paletteId: 'palette',
  circuitId: 'circuit',
  scriptId: 'script',
  hang: 'bar',
  patch: 'address',
  cues: 'list of cues',
  ids: 'list of what is meant',
  values: 'list of values',
  fixtures: 'list of fixtures',
  slots: 'list of slots',
  breaker_A: 'breaker',
  weight_kg: 'weight',
  idle_W: 'idle load',
  lamp_K: 'lamp’s white',
  editId: 'id of the edit',
  command: 'command',
  edit: 'edit',
};
const wordOf = (key: string): string =>
  WORDS[key] ??
  key
    .replace(/_.*$/, '')
    .replace(/([A-Z])/g, ' $1')
    .toLowerCase();

const KINDS: Record<string, string> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'yes or no',
  array: 'a list',
  object: 'a group of fields',
  date: 'a date',
};

/** What is counted of what has a length. */
const COUNTED: Readonly<Record<string, string>> = { string: 'characters', array: 'entries' };

/** The half sentence after the field's name. */
function half(issue: z.core.$ZodRawIssue): string | undefined {
  const size = (input: unknown): string =>
    typeof input === 'string' || Array.isArray(input) ? `; this has ${input.length}` : '';
  const counted = 'origin' in issue ? COUNTED[String(issue.origin)] : undefined;
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined
        ? 'is missing'
        : `has to be ${KINDS[issue.expected] ?? issue.expected}`;
    case 'too_big':
      return counted === undefined
        ? `is at most ${issue.maximum}`
        : `has at most ${issue.maximum} ${counted}${size(issue.input)}`;
    case 'too_small':
      if (counted !== undefined)
        return issue.minimum === 1 ? 'is empty' : `has at least ${issue.minimum} ${counted}`;
      return `is ${issue.inclusive === false ? 'more than' : 'at least'} ${issue.minimum}`;
    case 'invalid_value':
      return issue.values.length <= 8
        ? `is one of ${issue.values.map(String).join(', ')}`
        : 'is none of those that are known';
    case 'not_multiple_of':
      return `goes in steps of ${issue.divisor}`;
    case 'unrecognized_keys':
      return `has nothing called ${issue.keys.map((k) => `“${k.slice(0, 40)}”`).join(', ')}`;
    case 'invalid_key':
    case 'invalid_element':
    case 'invalid_union':
    case 'invalid_format':
    case 'custom':
      return 'is not written as it has to be';
    default:
      return undefined;
  }
}

z.config({
  customError: (issue) => {
    const said = half(issue);
    return said === undefined ? undefined : HALF + said;
  },
});

/** One problem as a sentence. @param issue of a schema; its path names the field */
export function sayIssue({
  path,
  message,
}: {
  path: readonly PropertyKey[];
  message: string;
}): string {
  if (!message.startsWith(HALF)) return message;
  const names = path.filter((p): p is string => typeof p === 'string' && p !== 'set');
  const place = path.findLast((p) => typeof p === 'number');
  const last = names.at(-1);
  return `${last === undefined ? 'What was sent' : `The ${wordOf(last)}`}${place === undefined ? '' : `, in place ${place + 1},`} ${message.slice(HALF.length)}.`;
}

/** The first problem as a sentence. */
export const sayFirst = (error: z.ZodError): string => {
  const [first] = error.issues;
  return first ? sayIssue(first) : 'What was sent is not valid.';
};
