import fc from 'fast-check';
import { formatTime, seconds, timeProblem } from '../cues/clock.ts';
import { apply, cue, exampleShow, refused } from '../testing/example.ts';
import { decodeText, guessFormat, placeAt, reanchor, wordAt } from './anchors.ts';
import { flagsIn, parseScript, sectionAt } from './parse.ts';

const PLAIN = `ACT ONE

Scene 3 — The quay

THE MATE
Seven lamps went over the water,
six came back with the rain.
(A bell, close by.)

LISS
Is there room for one more trunk?

- 22 -

COMPANY
Oh, all aboard, all aboard!
`;
const read = (text: string, format: Parameters<typeof parseScript>[1]): string[] =>
  parseScript(text, format).map((b) => `${b.kind} ${b.page}: ${text.slice(b.from, b.to)}`);

describe('reading', () => {
  test('plain text: acts, scenes, names in capitals, actions in brackets, pages', () => {
    expect(read(PLAIN, 'plain')).toEqual([
      'act 1: ACT ONE',
      'scene 1: Scene 3 — The quay',
      'speaker 1: THE MATE',
      'line 1: Seven lamps went over the water,',
      'line 1: six came back with the rain.',
      'action 1: (A bell, close by.)',
      'speaker 1: LISS',
      'line 1: Is there room for one more trunk?',
      'speaker 22: COMPANY',
      'line 22: Oh, all aboard, all aboard!',
    ]);
  });
  test('Markdown: headings, bold names, quoted and slanted actions', () => {
    expect(
      read(
        '# Act one\n\n## The quay\n\n**The mate:**\nSeven lamps.\n\n*A bell.*\n\n> Fog rolls in.\n',
        'markdown',
      ),
    ).toEqual([
      'act 1: Act one',
      'scene 1: The quay',
      'speaker 1: The mate',
      'line 1: Seven lamps.',
      'action 1: A bell.',
      'action 1: Fog rolls in.',
    ]);
  });
  test('Fountain: title page, sections, forced elements, lyrics, page breaks, notes left out', () => {
    expect(
      read(
        'Title: The Night Ferry\nAuthor: nobody\n\n# Act one\n\n.THE QUAY\n\nFog.\n\n@McTavish\n(low)\nSeven lamps. [[cut?]]\n\nLISS\n~The fjord is wide\n\n===\n\n>INTERVAL<\n',
        'fountain',
      ),
    ).toEqual([
      'act 1: Act one',
      'scene 1: THE QUAY',
      'action 1: Fog.',
      'speaker 1: McTavish',
      'action 1: (low)',
      'line 1: Seven lamps.',
      'speaker 1: LISS',
      'lyric 1: The fjord is wide',
      'act 2: INTERVAL',
    ]);
  });
  test('an order of service: items with leaders and durations', () => {
    expect(
      parseScript(
        '# Gathering\nWelcome | Nell Strand | 4:30\nHymn 12 | Choir | 180\nSilence\n',
        'order',
      ).map(({ kind, leader, duration_s }) => [kind, leader, duration_s]),
    ).toEqual([
      ['scene', undefined, undefined],
      ['item', 'Nell Strand', 270],
      ['item', 'Choir', 180],
      ['item', undefined, undefined],
    ]);
  });
  test('whatever the text, blocks lie in it, in order, and never over each other', () => {
    fc.assert(
      fc.property(
        fc.string({
          unit: fc.constantFrom(
            'A',
            'b',
            '\n',
            ' ',
            '#',
            '*',
            '(',
            ')',
            '|',
            '~',
            '=',
            '>',
            '[',
            ']',
            '5',
            ':',
          ),
          maxLength: 200,
        }),
        fc.constantFrom('plain', 'markdown', 'fountain', 'order' as const),
        (text, format) => {
          let last = 0;
          for (const b of parseScript(text, format)) {
            expect(b.from).toBeGreaterThanOrEqual(last);
            expect(b.to).toBeGreaterThan(b.from);
            expect(b.to).toBeLessThanOrEqual(text.length);
            last = b.to;
          }
        },
      ),
    );
  });
  test('a place knows its act, scene and page', () => {
    const script = { id: 's', title: 'x', format: 'plain' as const, text: PLAIN, draft: 1 };
    expect(sectionAt(script, PLAIN.indexOf('aboard'))).toEqual({
      act: 'ACT ONE',
      scene: 'Scene 3 — The quay',
      page: 22,
    });
  });
  test('cues that a script names, called on the word after', () => {
    expect(
      flagsIn('Oh [LX 5 All aboard] all, then (dark) [lx 6.5] "Cast off!"').map((f) => [
        f.number,
        f.name,
      ]),
    ).toEqual([
      [5000, 'All aboard'],
      [6500, ''],
    ]);
    const text = 'Oh [LX 5] all';
    expect(flagsIn(text).map((f) => text.slice(f.from, f.to))).toEqual(['all']);
  });
  test('what a file is, by its name or its lines', () => {
    expect([
      guessFormat('a.fountain', ''),
      guessFormat('a.md', ''),
      guessFormat('a.txt', PLAIN),
      guessFormat('a.txt', 'Welcome | Nell | 4:30'),
      guessFormat('', '# Act'),
    ]).toEqual(['fountain', 'markdown', 'plain', 'order', 'markdown']);
  });
  test('bytes in another encoding are read and said; what is no text is not', () => {
    expect(decodeText(Uint8Array.of(0x43, 0x61, 0x66, 0xe9))).toEqual({
      text: 'Café',
      encoding: 'Windows-1252',
    });
    expect(decodeText(Uint8Array.of(0xff, 0xfe, 0x41, 0, 0x0d, 0, 0x0a, 0))).toEqual({
      text: 'A\n',
      encoding: 'UTF-16',
    });
    expect(decodeText(Buffer.from('\ufeffFjørd'))).toEqual({ text: 'Fjørd', encoding: 'UTF-8' });
    expect(decodeText(Uint8Array.of(0x50, 0x4b, 3, 4, 0, 0))).toBeUndefined();
  });
  test('the word under a finger', () => {
    const text = 'Oh, all aboard!';
    const w = wordAt(text, 9);
    expect(w && text.slice(w.from, w.to)).toBe('aboard!');
    expect(wordAt(text, 3)).toBeUndefined();
  });
});

describe('later drafts', () => {
  const on = (text: string, words: string, nth = 0): ReturnType<typeof placeAt> => {
    let at = -1;
    for (let i = 0; i <= nth; i++) at = text.indexOf(words, at + 1);
    return placeAt(text, at, at + words.length);
  };
  const after = (next: string, words: string, nth = 0): [string, string | undefined, number] => {
    const [moved] = reanchor(PLAIN, next, [on(PLAIN, words, nth)]);
    return [next.slice(moved?.from, moved?.to), moved?.check, moved?.from ?? -1];
  };
  test('the same words elsewhere on the page are found, also wrapped and quoted otherwise', () => {
    const next = PLAIN.replace(
      'LISS\nIs there',
      'PURSER\nTickets, please.\n\nLISS\nIs there',
    ).replace('Seven lamps went over the water,\nsix', 'Seven lamps went over the\nwater, six');
    expect(after(next, 'room').slice(0, 2)).toEqual(['room', undefined]);
    expect(after(next, 'six').slice(0, 2)).toEqual(['six', undefined]);
  });
  test('of words that come twice, the one with the same neighbours', () => {
    const next = `Everybody all aboard the train.\n${PLAIN}`;
    const [words, check, from] = after(next, 'all aboard', 1);
    expect([words, check, from]).toEqual(['all aboard', undefined, next.lastIndexOf('all aboard')]);
  });
  test('changed words are found by what stands around them, and listed', () => {
    expect(after(PLAIN.replace('one more trunk', 'a small case'), 'trunk').slice(0, 2)).toEqual([
      'case',
      'changed',
    ]);
  });
  test('what is gone stays about where it was, and is listed as lost', () => {
    expect(after('Nothing at all of the old play is left in this one.', 'trunk')[1]).toBe('lost');
  });
  test('an unchanged script moves nothing, wherever a call is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: PLAIN.length - 2 }),
        fc.integer({ min: 1, max: 12 }),
        (from, length) => {
          const to = Math.min(PLAIN.length, from + length);
          fc.pre(PLAIN.slice(from, to).trim() === PLAIN.slice(from, to));
          const [moved] = reanchor(PLAIN, PLAIN, [placeAt(PLAIN, from, to)]);
          expect([moved?.from, moved?.to, moved?.check]).toEqual([from, to, undefined]);
        },
      ),
    );
  });
});

describe('as edits', () => {
  test('a script is taken in, a cue dropped on a word, moved, checked, taken off; its next draft keeps the calls', () => {
    const show = exampleShow();
    const id = cue(show, 5, { 1: 50 });
    apply(show, 'import-script', { title: 'The Night Ferry', format: 'plain', text: PLAIN });
    const script = [...show.scripts.values()][0];
    const at = (words: string): object => ({
      scriptId: script?.id,
      cueId: id,
      from: PLAIN.indexOf(words),
      to: PLAIN.indexOf(words) + words.length,
    });
    expect(apply(show, 'set-call', at('all aboard')).summary).toBe('Put cue 5 on “all aboard”');
    expect(show.cues.get(id)?.call).toBe('all aboard');
    expect(apply(show, 'set-call', at('trunk')).summary).toBe('Moved cue 5 to “trunk”');
    const [call] = [...show.calls.values()];
    apply(show, 'change-call', { id: call?.id, standby: PLAIN.indexOf('Is there') });
    expect(
      refused(show, 'change-call', { id: call?.id, standby: PLAIN.length - 1 }).message,
    ).toContain('before its call');
    const next = PLAIN.replace('one more trunk', 'a small case');
    expect(
      apply(show, 'import-script', {
        id: script?.id,
        title: 'The Night Ferry',
        format: 'plain',
        text: next,
      }).summary,
    ).toBe('Draft 2 of “The Night Ferry”: 0 calls found again, 1 call needs a look');
    expect([...show.calls.values()][0]).toMatchObject({
      check: 'changed',
      standby: next.indexOf('Is there') + (next.indexOf('case') - PLAIN.indexOf('trunk')),
    });
    apply(show, 'change-call', { id: call?.id, checked: true });
    expect([...show.calls.values()][0]?.check).toBeUndefined();
    expect(apply(show, 'delete-cue', { id }).summary).toContain('1 call left the script');
    expect(show.calls.size).toBe(0);
  });
  test('cues that it names are made and called', () => {
    const show = exampleShow();
    cue(show, 5, { 1: 50 });
    apply(show, 'import-script', {
      title: 'X',
      format: 'plain',
      text: 'Oh [LX 5] all aboard. [LX 6.5 Engine room] Cast off!',
    });
    apply(show, 'cues-from-flags', { scriptId: [...show.scripts.keys()][0], listId: 'main' });
    expect(show.cuesOf('main').map((c) => [c.number, c.name, c.call])).toEqual([
      [5000, '', ''],
      [6500, 'Engine room', 'Cast'],
    ]);
    expect([...show.calls.values()].map((c) => c.quote)).toEqual(['all', 'Cast']);
  });
  test('a script of 3 MB and an empty one are refused', () => {
    const show = exampleShow();
    expect(
      refused(show, 'import-script', { title: 'X', format: 'plain', text: 'a'.repeat(3_000_000) })
        .message,
    ).toContain('at most 2 million characters');
    expect(refused(show, 'import-script', { title: 'X', format: 'plain', text: ' \n ' }).code).toBe(
      'empty',
    );
  });
});

describe('times as they are written', () => {
  test.each([
    ['5', 5],
    ['2.5', 2.5],
    ['0,5', 0.5],
    ['1:30', 90],
    ['15s', 15],
    ['2.5 s', 2.5],
    ['2 min', 120],
    ['1m30s', 90],
    ['1m 30s', 90],
    ['0:05', 5],
    ['1:02:05', 3725],
  ])('%s is %s s', (text, s) => expect(seconds(text)).toBe(s));
  test.each([
    ['1:75', 'go to 59'],
    ['-3', 'not negative'],
    ['1:60:00', 'go to 59'],
    ['soon', 'is no time'],
    ['', 'missing'],
    ['1e3', 'is no time'],
  ])('“%s” is none, and it is said why', (text, why) => {
    expect(seconds(text)).toBeUndefined();
    expect(timeProblem(text)).toContain(why);
  });
  test('what is written is read back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 35_999 }), (s) => seconds(formatTime(s)) === s),
    );
  });
});
