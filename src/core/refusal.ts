/** What a person asked for and cannot have: a value, not an exception. Nothing has changed when one is returned. */
export interface Refusal {
  refused: true;
  /** For programs: `not-found`, `clash`, `invalid`, `forbidden`, `conflict` … */
  code: string;
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

export const refuse = (
  code: string,
  message: string,
  fields?: Record<string, string>,
): Refusal => ({ refused: true, code, message, ...(fields ? { fields } : {}) });

/** HTTP's word for a refusal; 400 for what is not listed. */
const STATUS: Record<string, number> = {
  unauthorized: 401,
  forbidden: 403,
  origin: 403,
  'not-found': 404,
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
  unavailable: 503,
  full: 507,
  standby: 503,
};
export const statusOf = ({ code }: Refusal): number => STATUS[code] ?? 400;

export const isRefusal = (value: unknown): value is Refusal =>
  typeof value === 'object' && value !== null && 'refused' in value;
