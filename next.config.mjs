/** @type {import('next').NextConfig} */
const config = {
  reactStrictMode: true,
  poweredByHeader: false,
  experimental: {
    // Pages and routes are loaded as they are asked for: all of them beforehand made every start two seconds longer.
    preloadEntriesOnStart: false,
  },
  // Type checking and linting are steps of `./wingman test`; a build that serves a running house need not repeat them.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: [
    'pg',
    'kysely',
    'pino',
    'pdfmake',
    // Decoders of sound: loaded by the processes that decode.
    '@audio/decode-aac',
    '@audio/decode-mp3',
    '@audio/decode-opus',
    '@audio/decode-wav',
    '@wasm-audio-decoders/flac',
    '@wasm-audio-decoders/ogg-vorbis',
  ],
};

export default config;
