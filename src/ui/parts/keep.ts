/** What this browser keeps of a person's arrangement; nothing of the show. */
export const keep: Pick<Storage, 'getItem' | 'setItem'> = typeof window === 'undefined' ? { getItem: () => null, setItem: () => undefined } : window.localStorage;
