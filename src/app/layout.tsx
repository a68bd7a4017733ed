import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import '@fontsource-variable/instrument-sans';
import '@fontsource-variable/jetbrains-mono';
import '@fontsource-variable/literata';
import { LOOK_COOKIE, lookOf } from '@/core/crew/look';
import { ScreenLight } from '@/ui/frame/ScreenLight';
import './globals.css';

export const metadata: Metadata = {
  title: 'Wingman',
  description: 'Patch a rig, build cue lists, share the show and its playback.',
};

export default async function RootLayout({ children }: { children: React.ReactNode }) {
  const look = lookOf((await cookies()).get(LOOK_COOKIE)?.value);
  return (
    <html lang="en" data-theme={look.theme} suppressHydrationWarning>
      <body>
        {children}
        <ScreenLight first={look} />
      </body>
    </html>
  );
}
