/** What `T` is when those of its fields that may be undefined are left out instead. */
export type Given<T> = {
  [K in keyof T as undefined extends T[K] ? never : K]: T[K];
} & { [K in keyof T as undefined extends T[K] ? K : never]?: Exclude<T[K], undefined> };

/** The fields that have a value; a row says nothing where nothing is said (given.test.ts). */
export const given = <T extends object>(fields: T): Given<T> =>
  Object.fromEntries(Object.entries(fields).filter(([, v]) => v !== undefined)) as Given<T>;
