import type { Metadata, Viewport } from 'next';
import localFont from 'next/font/local';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { dateInWords } from '@/core/quantity/calendar';
import { actAsAction } from '@/server/actions';
import { isDemoDay, today } from '@/server/clock';
import { frameOf } from '@/server/frame';
import { Frame } from '@/ui/frame/Frame';
import './globals.css';

const hyperlegible = localFont({
  variable: '--font-hyperlegible',
  src: [
    {
      weight: '200 800',
      style: 'normal',
      path: '../../node_modules/@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2',
    },
  ],
});
const literata = localFont({
  variable: '--font-literata',
  src: [
    {
      weight: '200 900',
      style: 'normal',
      path: '../../node_modules/@fontsource-variable/literata/files/literata-latin-wght-normal.woff2',
    },
  ],
});

export const metadata: Metadata = {
  title: { default: 'Patient Furrow', template: '%s · Patient Furrow' },
  description: 'Field nutrient budget, nitrogen plan and leaf check',
};
export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

// Before the first paint, so that a dark choice does not flash.
const theme =
  "try{const t=localStorage.getItem('furrow-theme');if(t)document.documentElement.dataset.theme=t}catch{}";

export default async function Layout({ children }: { children: ReactNode }) {
  const frame = await frameOf();
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html
      lang="en"
      className={`${hyperlegible.variable} ${literata.variable}`}
      suppressHydrationWarning
    >
      <head>
        <script nonce={nonce} dangerouslySetInnerHTML={{ __html: theme }} />
      </head>
      <body>
        <Frame {...frame} today={dateInWords(today())} demo={isDemoDay()} actAs={actAsAction}>
          {children}
        </Frame>
      </body>
    </html>
  );
}
