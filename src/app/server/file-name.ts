/** A name that every system takes. */
export const plainName = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'show';

/** Of a file: what it is of, and what it is. */
export const fileName = (name: string, rest: string): string => `${plainName(name)}-${rest}`;
