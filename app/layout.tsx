import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/source-serif-4';
import './globals.css';
import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import type { ReactNode } from 'react';
import { lowDiskMb } from '@/server/trouble';
import { Queries } from '@/ui/kit/queries';
import { UnsentEverywhere } from '@/ui/unsent/everywhere';

export const metadata: Metadata = {
  title: { default: 'Omaggio', template: '%s · Omaggio' },
  description: 'Fingerings and bowings for string parts: marked, checked and explained.',
};

export default async function Layout({ children }: { children: ReactNode }) {
  const theme = (await cookies()).get('theme')?.value === 'dark' ? 'dark' : 'light';
  const mb = await lowDiskMb();
  return (
    <html lang="en" data-theme={theme}>
      <body>
        {mb !== null && (
          <p role="alert" className="no-print bg-plum px-4 py-1.5 text-center text-[13px] text-sheet">
            Only {mb} MB are left on the disk of the server. Make room before it is full: then nothing more can be saved.
          </p>
        )}
        <Queries>{children}</Queries>
        <UnsentEverywhere />
      </body>
    </html>
  );
}
