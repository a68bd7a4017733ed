/** How sources are put into one file, for the launcher (start.mjs) and for the processes (build.ts). */

/**
 * What stays beside a bundle is machine code, what finds files of its own, and what only some ask for. Packages of the
 * older kind ask for others with `require`, which a module does not have by itself.
 * @type {import('esbuild').BuildOptions}
 */
export const BUNDLED = {
  bundle: true,
  external: [
    'esbuild',
    'next',
    'pino',
    'pg-native',
    'bufferutil',
    'utf-8-validate',
    'mammoth',
    'pdfjs-dist',
    'selenium-webdriver',
    'node-web-audio-api',
    '@julusian/midi',
    '@audio/*',
    '@wasm-audio-decoders/*',
  ],
  banner: {
    js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
  },
  platform: 'node',
  format: 'esm',
  target: 'node20',
  logLevel: 'warning',
};
