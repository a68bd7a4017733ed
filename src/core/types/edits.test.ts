/** Types of a show, and the units that are of them. */
import { libraryType } from '../rig/library/index.ts';
import { apply, exampleShow, refused } from '../testing/example.ts';

describe('types of the show', () => {
  const own = (() => {
    const { id, ...rest } = structuredClone(libraryType('generic-rgb')) as NonNullable<
      ReturnType<typeof libraryType>
    >;
    void id;
    return { ...rest, maker: 'Aldersund', name: 'Sandpiper' };
  })();

  test('a type is made, patched, changed under its fixtures, and not taken away from them', () => {
    const show = exampleShow();
    apply(show, 'set-type', { type: own });
    const type = [...show.types.values()].find((t) => t.name === 'Sandpiper');
    apply(show, 'patch-fixtures', {
      typeId: type?.id,
      mode: 'RGB',
      quantity: 2,
      first: 50,
      universe: 5,
      address: 1,
    });
    expect(refused(show, 'delete-type', { id: type?.id }).message).toMatch(
      /Fixture 50–51 are of this type/,
    );
    // One more channel: 51 at 5.4 is in the way of 50.
    const wider = {
      ...own,
      modes: own.modes.map((m) => (m.name === 'RGB' ? { ...m, footprint: 4 } : m)),
    };
    expect(refused(show, 'set-type', { id: type?.id, type: wider }).message).toMatch(
      /would sit on 5[01]/,
    );
    expect(
      refused(show, 'set-type', { id: type?.id, type: { ...own, modes: own.modes.slice(1) } })
        .message,
    ).toMatch(/uses mode “RGB”/);
    apply(show, 'set-type', { id: type?.id, type: { ...own, watts: 200 } });
    expect(show.types.get(type?.id ?? '')?.watts).toBe(200);
    expect(refused(show, 'set-type', { type: own }).message).toMatch(
      /There is a Aldersund Sandpiper|There is an? Aldersund Sandpiper/,
    );
  });

  test('a type with something wrong is refused with every place named', () => {
    const broken = {
      ...own,
      modes: [
        {
          name: 'One',
          footprint: 2,
          channels: [
            { attribute: 'ColorAdd_R', offset: [1], default: 0, physicalFrom: 0, physicalTo: 1 },
            { attribute: 'ColorAdd_G', offset: [1], default: 0, physicalFrom: 0, physicalTo: 1 },
          ],
        },
      ],
    };
    const refusal = refused(exampleShow(), 'set-type', { type: broken });
    expect(refusal.message).toMatch(/both use channel 1/);
    expect(Object.keys(refusal.fields ?? {})).toEqual(['modes.0.channels.1.offset']);
  });
});
