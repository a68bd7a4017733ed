/** Fields of a form that is checked by a schema: what is wrong stands under its field, in the schema's words. */
'use client';
import { zodResolver } from '@hookform/resolvers/zod';
import { useId, type ComponentProps } from 'react';
import {
  get,
  useForm,
  type DefaultValues,
  type FieldPath,
  type FieldValues,
  type UseFormReturn,
} from 'react-hook-form';
import { z } from 'zod';
import { timeProblem } from '@/core/cues/clock';
import { Choice, Field, Wrong } from './controls';

/** A time as it is typed; what is wrong with it is said in its own words. @param empty none may be said */
export const typedTime = (empty: boolean) =>
  z
    .string()
    .trim()
    .superRefine((t, ctx) => {
      const wrong = empty && t === '' ? undefined : timeProblem(t);
      if (wrong !== undefined) ctx.addIssue(wrong);
    });

/**
 * A form whose values a schema reads.
 * @param first what stands in its fields when it opens
 */
export function useSchemaForm<S extends z.ZodType<FieldValues, FieldValues>>(
  schema: S,
  first: DefaultValues<z.input<S>>,
): UseFormReturn<z.input<S>, unknown, z.output<S>> {
  return useForm<z.input<S>, unknown, z.output<S>>({
    resolver: zodResolver(schema),
    defaultValues: first,
    mode: 'onTouched',
  });
}

interface Of<In extends FieldValues, Out> {
  form: UseFormReturn<In, unknown, Out>;
  name: FieldPath<In>;
}

/** Why a field cannot be taken, in a sentence. */
function problemOf<In extends FieldValues, Out>({ form, name }: Of<In, Out>): string | undefined {
  const found: unknown = get(form.formState.errors, name);
  return found !== null && typeof found === 'object' && 'message' in found
    ? String(found.message)
    : undefined;
}

/** A field of a form, by its name in the schema. */
export function FormField<In extends FieldValues, Out>({
  form,
  name,
  ...rest
}: Of<In, Out> & Omit<ComponentProps<typeof Field>, 'form' | 'name' | 'problem'>) {
  return <Field {...rest} {...form.register(name)} problem={problemOf({ form, name })} />;
}

/** A choice of a form, by its name in the schema. */
export function FormChoice<In extends FieldValues, Out>({
  form,
  name,
  ...rest
}: Of<In, Out> & Omit<ComponentProps<typeof Choice>, 'form' | 'name' | 'problem'>) {
  return <Choice {...rest} {...form.register(name)} problem={problemOf({ form, name })} />;
}

/** A text of several lines. */
export function FormArea<In extends FieldValues, Out>({
  form,
  name,
  label,
  rows,
}: Of<In, Out> & { label: string; rows: number }) {
  const id = useId();
  const problem = problemOf({ form, name });
  return (
    <div className="text-[12px] text-muted">
      <label htmlFor={id}>{label}</label>
      <textarea
        id={id}
        rows={rows}
        {...form.register(name)}
        aria-invalid={problem !== undefined}
        aria-describedby={problem === undefined ? undefined : `${id}-problem`}
        className={`mt-1 block w-full rounded-md bg-ink p-2 text-[13px] text-text inset-ring ${problem === undefined ? 'inset-ring-edge' : 'inset-ring-danger'}`}
      />
      <Wrong id={id} problem={problem} />
    </div>
  );
}
