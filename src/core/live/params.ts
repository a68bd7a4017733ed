/** Parameters that live commands share. */
import { z } from 'zod';
import { FAMILIES, FixtureNumber } from '../show/fields.ts';

/** 0…1 of the attribute’s range. */
export const Level = z
  .number()
  .min(0, 'A level is at least 0.')
  .max(1, 'A level is at most 1 (100 %).');
/** Fixtures by their numbers. */
export const Numbers = z.array(FixtureNumber).min(1, 'Name at least one fixture.').max(10_000);
/** An attribute’s name, of GDTF or of a type’s own. */
export const Attribute = z.string().min(1).max(60);
/** Fixture numbers; absent: the operator’s own selection, in its order. */
export const On = Numbers.optional();
/** Some of the families, at least one. */
export const Families = z.array(z.enum(FAMILIES)).min(1).max(FAMILIES.length);
