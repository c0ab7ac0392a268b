import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/source-serif-4';
import './globals.css';
import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import type { ReactNode } from 'react';

export const metadata: Metadata = {
  title: { default: 'Omaggio', template: '%s · Omaggio' },
  description: 'Fingerings and bowings for string parts: marked, checked and explained.',
};

export default async function Layout({ children }: { children: ReactNode }) {
  const theme = (await cookies()).get('theme')?.value === 'dark' ? 'dark' : 'light';
  return (
    <html lang="en" data-theme={theme}>
      <body>{children}</body>
    </html>
  );
}
