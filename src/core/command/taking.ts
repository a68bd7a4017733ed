/** What the programmer takes and lets go: `take lit`, `take cue 5 whole`, `let go colour time 3`, `keep colour`. */
import { formatCueNumber } from '../cues/number.ts';
import type { LiveCommand } from '../live/commands.ts';
import { attributeInfo, findAttribute } from '../rig/attributes.ts';
import { FAMILIES, type Family } from '../show/fields.ts';
import { numberRanges } from '../words.ts';
import type { Read } from './intent.ts';
import { Complaint, type Reader } from './reader.ts';
import { family, familyNamed, ofFamily, seconds } from './said.ts';

/** `take lit`, `take cue 5 whole`, with fixtures before it only of these. */
export function taking(r: Reader, numbers?: readonly number[]): Read {
  const only = numbers ? { fixtures: [...numbers] } : {};
  r.takeList();
  if (r.takeKey('cue')) {
    const { number, listId } = r.cue();
    const whole = r.takeKey('whole') !== undefined;
    const what = ofFamily(family(r));
    r.end();
    return {
      intent: {
        kind: 'live',
        command: {
          command: 'take',
          what: 'cue',
          cue: formatCueNumber(number),
          list: listId,
          whole,
          ...what,
          ...only,
        },
      },
      says: `${whole ? 'all that' : 'what'} cue ${formatCueNumber(number)}${r.ofList} ${whole ? 'shows' : 'sets'}${numbers ? ` of ${numberRanges(numbers)}` : ''} · into your programmer`,
    };
  }
  r.takeKey('lit');
  const what = ofFamily(family(r));
  r.end();
  return {
    intent: {
      kind: 'live',
      command: { command: 'take', what: 'lit', whole: false, ...what, ...only },
    },
    says: `what is lit${numbers ? ` of ${numberRanges(numbers)}` : ''}, as it is on stage · into your programmer`,
  };
}

/** `let go`, `let go colour time 3`, `5 let go`, `5 let go pan`. */
export function lettingGo(r: Reader, numbers?: readonly number[]): Read {
  r.takeKey('go');
  r.takeKey('of');
  const families: Family[] = [];
  const attributes: string[] = [];
  while (!r.done && r.peek()?.key !== 'time' && r.peek()?.key !== 'in') {
    const word = r.next();
    const found = familyNamed(word);
    const attribute = word ? findAttribute(word.text) : undefined;
    if (found) families.push(found);
    else if (attribute) attributes.push(attribute);
    else throw new Complaint(`“${word?.text}” is neither a family nor an attribute.`, word);
  }
  const fade_s = seconds(r) ?? 2;
  r.end();
  const what = [...families, ...attributes.map((a) => attributeInfo(a).label.toLowerCase())].join(
    ' and ',
  );
  const command: LiveCommand = {
    command: 'letgo',
    fade_s,
    ...(numbers ? { fixtures: [...numbers] } : {}),
    ...(families.length > 0 ? { families } : {}),
    ...(attributes.length > 0 ? { attributes } : {}),
  };
  return {
    intent: { kind: 'live', command },
    says: `${what ? `${what} ` : 'your values '}${numbers ? `of ${numberRanges(numbers)} ` : ''}${what && !numbers ? 'of what you hold ' : ''}fade back to playback in ${fade_s} s`,
  };
}

/** `keep colour` */
export function keeping(r: Reader): Read {
  const families: Family[] = [];
  while (!r.done) {
    const word = r.next();
    const found = familyNamed(word);
    if (!found) throw new Complaint(`Keep what? One of ${FAMILIES.join(', ')}.`, word);
    families.push(found);
  }
  if (families.length === 0)
    throw new Complaint(`Keep what? One of ${FAMILIES.join(', ')}.`, r.previous());
  return {
    intent: { kind: 'live', command: { command: 'keep', families } },
    says: `keep ${families.join(' and ')}, let go of everything else`,
  };
}
