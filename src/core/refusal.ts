/** What a person asked for and cannot have: a value, not an exception. Nothing has changed when one is returned. */

/** Every reason for a refusal, and HTTP's word for it. A program goes by the code, a person by the message. */
const STATUS = {
  /** What was sent is not valid, or cannot mean anything here. */
  invalid: 400,
  encoding: 400,
  twice: 400,
  empty: 400,
  'unknown-edit': 400,
  blind: 400,
  /** A unit cannot reach, a set of things has nothing in common, a row would hold itself. */
  'no-reach': 400,
  'nothing-common': 400,
  loop: 400,
  overflow: 400,
  last: 400,
  remotes: 400,
  unauthorized: 401,
  forbidden: 403,
  origin: 403,
  'not-found': 404,
  /** Others were faster, or have it. */
  clash: 409,
  unseen: 409,
  part: 409,
  board: 409,
  unrelated: 409,
  conflict: 409,
  nothing: 409,
  end: 409,
  limit: 409,
  'too-large': 413,
  locked: 423,
  rate: 429,
  internal: 500,
  unavailable: 503,
  standby: 503,
  full: 507,
} as const;
/** Every reason to refuse. */
export type RefusalCode = keyof typeof STATUS;

/** A no: nothing was changed. */
export interface Refusal {
  refused: true;
  /** For programs. */
  code: RefusalCode;
  /** For people: what happened, what is kept, what to do. */
  message: string;
  /** Messages by field of the request. */
  fields?: Record<string, string>;
  /** What somebody else has changed of what this would write, since its sender looked. */
  unseen?: Unseen[];
  /** The last change when `unseen` was found: choices are made against this. */
  seq?: number;
}

/** One cell, or one field of a row, that two people changed. */
export interface Unseen {
  key: string;
  title: string;
  seen: string;
  now: string;
  yours: string;
  who: string;
  /** ISO 8601. */
  at: string;
}

/** A no with a code, a sentence for people, and what is wrong with each field. */
export const refuse = (
  code: RefusalCode,
  message: string,
  fields?: Record<string, string>,
): Refusal => ({ refused: true, code, message, ...(fields ? { fields } : {}) });

/** HTTP's word for a refusal. */
export const statusOf = ({ code }: Pick<Refusal, 'code'>): number => STATUS[code];

/** What was asked for, or why it cannot be had. */
export type Result<Value> = Value | Refusal;

/** Whether an answer is a no. */
export const isRefusal = (value: unknown): value is Refusal =>
  typeof value === 'object' && value !== null && 'refused' in value;
