/** Our own drawings of patterns, by the word that a slot names: paths in a square of 24. */
export const PATTERNS: Readonly<Record<string, string>> = {
  open: 'M12 3a9 9 0 1 0 0 18a9 9 0 1 0 0-18',
  portholes:
    'M7 6a2.500 2.500 0 1 0 .01 0M17 6a2.500 2.500 0 1 0 .01 0M7 13a2.500 2.500 0 1 0 .01 0M17 13a2.500 2.500 0 1 0 .01 0',
  rigging: 'M4 21L12 3L20 21M7.500 13.500H16.500M5.800 17.500H18.200M9.500 9H14.500M12 3V21',
  leaves:
    'M6 6c4 0 5 2 5 5c-4 0-5-2-5-5M18 7c0 4-2 5-5 5c0-4 2-5 5-5M7 19c0-4 2-5 5-5c0 4-2 5-5 5M19 17c-4 1-5-1-6-3c4-1 6 1 6 3',
  window: 'M5 4h6v7H5zM13 4h6v7h-6zM5 13h6v7H5zM13 13h6v7h-6z',
  waves: 'M3 8c3-3 6 3 9 0s6 3 9 0M3 13c3-3 6 3 9 0s6 3 9 0M3 18c3-3 6 3 9 0s6 3 9 0',
  dots: 'M6 6h.01M12 6h.01M18 6h.01M6 12h.01M12 12h.01M18 12h.01M6 18h.01M12 18h.01M18 18h.01',
  shards: 'M4 5l6 2l-4 5zM13 4l7 3l-6 4zM5 15l7-2l-3 7zM15 13l5 3l-5 4z',
  stars: 'M7 5v5M4.500 7.500h5M17 4v4M15 6h4M12 12v6M9 15h6M18 15v4M16 17h4',
  bars: 'M5 4v16M9 4v16M13 4v16M17 4v16M21 4v16',
};

/** One as a drawing of its own, as a file holds it. */
export const patternSvg = (name: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24"><path d="${PATTERNS[name] ?? PATTERNS.open}" fill="none" stroke="#fff" stroke-width="1.8" stroke-linecap="round"/></svg>`;
