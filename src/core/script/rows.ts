/** Scripts, and where cues and other departments are called in them. */
import { z } from 'zod';
import { Name, idOf } from '../show/fields.ts';

/** Characters of the longest script. */
export const SCRIPT_LIMIT = 2_000_000;

/** How a script may be written. */
export const SCRIPT_FORMATS = ['plain', 'markdown', 'fountain', 'order'] as const;

/** A script, or an order of service, as it was written; its pages are read from the text. */
export const ScriptRow = z.object({
  id: idOf('scripts'),
  title: Name,
  format: z.enum(SCRIPT_FORMATS),
  text: z.string().max(SCRIPT_LIMIT, 'A script has at most 2 million characters.'),
  draft: z.number().int().min(1).max(9999),
});
export type ScriptRow = z.infer<typeof ScriptRow>;

/** Where a cue is called in a script: characters of its text, with what stands around them for later drafts. */
export const CallRow = z.object({
  id: idOf('calls'),
  scriptId: idOf('scripts'),
  cueId: idOf('cues'),
  from: z.number().int().min(0).max(SCRIPT_LIMIT),
  to: z.number().int().min(0).max(SCRIPT_LIMIT),
  quote: z.string().max(200),
  before: z.string().max(120),
  after: z.string().max(120),
  /** Where the stand-by is given. */
  standby: z.number().int().min(0).max(SCRIPT_LIMIT).optional(),
  /** A later draft has changed what stands here. */
  check: z.enum(['changed', 'lost']).optional(),
});
export type CallRow = z.infer<typeof CallRow>;

/** Who is called besides light: sound, flies, follow spots, as the house names them. */
export const DepartmentRow = z.object({ id: idOf('departments'), name: Name });
export type DepartmentRow = z.infer<typeof DepartmentRow>;

/** Where another department is called in a script, with what stands around it for later drafts. */
export const PromptRow = CallRow.omit({ cueId: true }).extend({
  department: idOf('departments'),
  /** What is called: `Q 7, thunder`. */ label: Name,
});
export type PromptRow = z.infer<typeof PromptRow>;
