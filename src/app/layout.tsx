import type { Metadata } from 'next';
import '@fontsource-variable/instrument-sans';
import '@fontsource-variable/jetbrains-mono';
import '@fontsource-variable/literata';
import './globals.css';

export const metadata: Metadata = {
  title: 'Wingman',
  description: 'Patch a rig, build cue lists, share the show and its playback.',
};

export default function RootLayout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en">
      <body>{children}</body>
    </html>
  );
}
