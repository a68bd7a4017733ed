/** @type {import('next').NextConfig} */
const config = {
  reactStrictMode: true,
  poweredByHeader: false,
  // Type checking and linting are steps of `./wingman test`; a build that serves a running house need not repeat them.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: ['pg', 'kysely', 'pino', 'pdfmake'],
};

export default config;
