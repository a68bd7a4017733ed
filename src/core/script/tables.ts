/** What tables of scripts, of calls in them and of departments know of themselves. */
import { sayCue, type Cues } from '../cues/tables.ts';
import { defineTable, ownedBy, ref, type FieldWords } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { CallRow, DepartmentRow, PromptRow, ScriptRow } from './rows.ts';

interface Scripts {
  readonly scripts: ReadonlyMap<string, ScriptRow>;
}
export const scripts = defineTable({
  name: 'scripts',
  one: 'script',
  row: ScriptRow,
  section: 'script',
  says: { row: (s) => `script${quoted(s.title)}` },
});

/** Characters from the script's beginning tell nobody anything, and what stands around them is kept for later drafts. */
const PLACE = {
  from: { called: 'place in the script', say: () => 'a place in the text' },
  standby: { say: () => 'a place in the text' },
  to: { hidden: true },
  before: { hidden: true },
  after: { hidden: true },
  scriptId: {
    called: 'script',
    say: (id: string, show: Scripts) => show.scripts.get(id)?.title ?? 'one that is gone',
  },
} satisfies Record<string, FieldWords<Scripts>>;

export const calls = defineTable({
  name: 'calls',
  one: 'call',
  row: CallRow,
  section: 'script',
  refs: [
    ownedBy('cues', (c: CallRow) => [c.cueId]),
    ownedBy('scripts', (c: CallRow) => [c.scriptId]),
  ],
  about: (c) => ({ cueId: c.cueId }),
  says: {
    row: (c) => `the call${quoted(c.quote, ' on')}`,
    using: (c) => `a call on “${c.quote}”`,
  },
  fields: {
    ...PLACE,
    cueId: { called: 'cue', say: (id: string, show: Cues & Scripts) => sayCue(id, show) },
  },
});

export const departments = defineTable({
  name: 'departments',
  one: 'department',
  row: DepartmentRow,
  section: 'script',
  since: 3,
  says: { row: (d) => `department “${d.name}”` },
});

export const prompts = defineTable({
  name: 'prompts',
  one: 'department’s call',
  row: PromptRow,
  section: 'script',
  since: 3,
  refs: [
    ownedBy('scripts', (p: PromptRow) => [p.scriptId]),
    ref('departments', (p: PromptRow) => [p.department]),
  ],
  says: { row: (p) => `“${p.label}” in the script` },
  fields: PLACE,
});
