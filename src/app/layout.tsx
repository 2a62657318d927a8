import type { Metadata } from 'next';
import { cookies, headers } from 'next/headers';
import type { ReactNode } from 'react';
import { EarlyPresses } from '@/ui/frame/EarlyPresses';
import { keepPresses } from '@/ui/frame/keepPresses';
import '@fontsource-variable/instrument-sans';
import '@fontsource-variable/jetbrains-mono';
import '@fontsource-variable/source-serif-4';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Ovrand', template: '%s · Ovrand' },
  description: 'Which requirements of a controller pass, fail or lack evidence, and why.',
};

export default async function Layout({ children }: { readonly children: ReactNode }) {
  const theme = (await cookies()).get('theme')?.value === 'dark' ? 'dark' : 'light';
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" data-theme={theme}>
      <head>
        <script nonce={nonce}>{keepPresses}</script>
      </head>
      <body>
        {children}
        <EarlyPresses />
      </body>
    </html>
  );
}
