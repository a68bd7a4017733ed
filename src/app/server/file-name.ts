/** A file name that every system takes. */
export const fileName = (name: string, rest: string): string =>
  `${
    name
      .normalize('NFKD')
      .replace(/[^A-Za-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'show'
  }-${rest}`;
