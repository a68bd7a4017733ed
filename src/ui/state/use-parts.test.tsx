/** @jest-environment jsdom */
/** Typing in one panel draws that panel: whoever reads other parts of a store is not drawn again. */
import { act, render } from '@testing-library/react';
import { Profiler } from 'react';
import { create } from 'zustand';
import { useParts } from './use-parts';

const useStore = create(() => ({ words: '', level: 0, open: false }));

test('a part that nobody here reads draws nothing again', () => {
  const drawn = { words: 0, level: 0 };
  function Words() {
    return <p>{useParts(useStore, 'words', 'open').words}</p>;
  }
  function Level() {
    return <p>{useParts(useStore, 'level').level}</p>;
  }
  render(
    <>
      <Profiler id="words" onRender={() => void drawn.words++}>
        <Words />
      </Profiler>
      <Profiler id="level" onRender={() => void drawn.level++}>
        <Level />
      </Profiler>
    </>,
  );
  act(() => useStore.setState({ words: 'storm' }));
  act(() => useStore.setState({ words: 'storm, sea' }));
  act(() => useStore.setState({ level: 0 }));
  expect(drawn).toEqual({ words: 3, level: 1 });
  act(() => useStore.setState({ level: 0.5 }));
  act(() => useStore.setState({ open: true }));
  expect(drawn).toEqual({ words: 4, level: 2 });
});
