/** What is odd about a rig is found, and put aside where it is meant. */
import { apply, exampleShow, idOf, idsOf, refused } from '../testing/example.ts';
import { rigFindings, standing } from './findings.ts';

describe('findings', () => {
  test('heads that move while lit, and fades that are too short for the way', () => {
    const show = exampleShow();
    const pan = (number: number, dimmer: number, at: number, up_s: number): void =>
      void apply(show, 'record-cue', {
        listId: 'main',
        number,
        up_s,
        down_s: up_s,
        values: [
          { fixtureId: idOf(show, 101), attribute: 'Dimmer', level: dimmer },
          { fixtureId: idOf(show, 101), attribute: 'Pan', level: at },
        ],
      });
    pan(1000, 1, 0, 3);
    pan(2000, 0.8, 1, 1);
    const texts = rigFindings(show).map((f) => f.text);
    expect(texts).toContain('101 moves while lit in cue 2.');
    // 540° at 210°/s take 2.6 s.
    expect(texts).toContain('101 needs 2.6 s for the way in cue 2; its fade is 1 s.');
  });

  test('universes that are patched and not sent, groups without anybody', () => {
    const show = exampleShow();
    for (const route of [...show.routes.values()].filter((r) => r.universe === 2))
      apply(show, 'delete-route', { id: route.id });
    expect(rigFindings(show)[0]).toMatchObject({
      grave: true,
      text: 'Universe 2 is patched, but sent nowhere.',
    });
    apply(show, 'record-group', { name: 'Stern', fixtures: idsOf(show, 6) });
    apply(show, 'delete-fixtures', { ids: idsOf(show, 6) });
    expect(rigFindings(show).map((f) => f.text)).toContain('Group 1 “Stern” is empty.');
  });

  test('a finding that is meant is put aside with a word, and taken up again', () => {
    const show = exampleShow();
    apply(show, 'record-group', { number: 40, name: 'Empty', fixtures: [idOf(show, 2)] });
    apply(show, 'delete-fixtures', { ids: [idOf(show, 2)] });
    const [finding] = rigFindings(show);
    if (!finding) throw new Error('there is a group without anybody');
    expect(standing(show, rigFindings(show))).toContainEqual(finding);
    expect(refused(show, 'put-aside', { key: finding.key, word: ' ' }).message).toBe(
      'Say in a word why it is meant.',
    );
    apply(show, 'put-aside', { key: finding.key, word: 'filled on tour', text: finding.text });
    expect(standing(show, rigFindings(show)).map((f) => f.key)).not.toContain(finding.key);
    expect(show.settings.get('show')?.aside?.[finding.key]).toMatchObject({
      word: 'filled on tour',
    });
    apply(show, 'put-aside', { key: finding.key, word: null });
    expect(standing(show, rigFindings(show))).toContainEqual(finding);
    expect(show.settings.get('show')).not.toHaveProperty('aside');
  });

  test('a rig without oddities has no findings', () =>
    expect(rigFindings(exampleShow())).toEqual([]));
});
