/** Live commands by which cues and departments are called. */
import { z } from 'zod';
import { LOOKERS } from '../roles.ts';
import { defineLive } from '../live/define-live.ts';
import { RowId, idOf } from '../show/fields.ts';

export const call = defineLive({
  command: 'call',
  says: 'The next cue of a list, or a department, is told to stand by, given its go, or neither any more.',
  params: {
    list: idOf('lists').optional(),
    do: z.enum(['standby', 'go', 'withdraw']).default('go'),
    department: idOf('departments').optional(),
    /** Where in the script. */ prompt: RowId.optional(),
    words: z.string().max(80).optional(),
  },
  roles: LOOKERS,
  withoutRemotes: true,
});

export const answerCall = defineLive({
  command: 'answer-call',
  says: 'Stands by; a department that was given its go has done it.',
  params: {
    call: z.string().max(40),
  },
  roles: LOOKERS,
});
