import type { MetadataRoute } from 'next';

/** Wingman as an app of its own: its icon, and the whole screen. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    name: 'Wingman',
    short_name: 'Wingman',
    description: 'Patch a rig, build cue lists, share the show and its playback.',
    start_url: '/',
    display: 'fullscreen',
    background_color: '#0e1513',
    theme_color: '#0e1513',
    icons: [
      { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' },
      { src: '/icon-192.png', sizes: '192x192', type: 'image/png', purpose: 'any' },
      { src: '/icon-512.png', sizes: '512x512', type: 'image/png', purpose: 'any' },
      { src: '/icon-mask.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
    ],
  };
}
