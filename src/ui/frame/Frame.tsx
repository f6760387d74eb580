'use client';

import { Menu, Moon, Search, Sun } from 'lucide-react';
import type { Route } from 'next';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { usePathname, useRouter } from 'next/navigation';
import { useEffect, useState, useTransition, type ReactNode } from 'react';
import { useHydrated } from './hydrated';
import { isTyped } from './keys';
import { UnitsProvider, useUnits } from './units';
import { WhyProvider } from './why';

export interface FramePerson {
  id: string;
  name: string;
}
export interface FrameProps {
  people: FramePerson[];
  actorId: string;
  role: string;
  today: string;
  demo: boolean;
  actAs: (personId: string) => Promise<void>;
  children: ReactNode;
}

const Palette = dynamic(() => import('./Palette').then((m) => m.Palette), { ssr: false });
const Help = dynamic(() => import('./Help').then((m) => m.Help), { ssr: false });

const STATION_KEYS = ['ground', 'crop', 'budget', 'supply', 'season', 'sheet'] as const;
const RAIL: readonly { href: Route; label: string }[] = [
  { href: '/', label: 'Today' },
  { href: '/fields', label: 'Fields' },
  { href: '/samples', label: 'Samples' },
  { href: '/library', label: 'Library' },
  { href: '/calculators', label: 'Calculators' },
];

function flipTheme(): void {
  const root = document.documentElement;
  const dark =
    root.dataset.theme === 'dark' ||
    (!root.dataset.theme && matchMedia('(prefers-color-scheme: dark)').matches);
  root.dataset.theme = dark ? 'light' : 'dark';
  localStorage.setItem('furrow-theme', root.dataset.theme);
}
function ThemeSwitch() {
  return (
    <button
      type="button"
      className="button px-2"
      onClick={flipTheme}
      aria-label="Change between light and dark"
    >
      <Sun size={15} aria-hidden className="hidden dark:inline" />
      <Moon size={15} aria-hidden className="dark:hidden" />
    </button>
  );
}

function UnitSwitch() {
  const { system, toggle } = useUnits();
  return (
    <button
      type="button"
      className="plain no-underline"
      onClick={toggle}
      aria-label={`Units: ${system === 'metric' ? 'kg/ha' : 'lb/ac'}. Change to ${system === 'metric' ? 'lb/ac' : 'kg/ha'}`}
    >
      <span className={system === 'metric' ? 'font-bold underline' : ''}>kg/ha</span> |{' '}
      <span className={system === 'us' ? 'font-bold underline' : ''}>lb/ac</span>
    </button>
  );
}

/**
 * Single keys work outside of boxes only: digits for stations; brackets belong to the field's own
 * page.
 */
function useShortcuts(show: (what: 'palette' | 'help') => void) {
  const path = usePathname();
  const router = useRouter();
  const { toggle } = useUnits();
  useEffect(() => {
    const [, area, fieldId] = path.split('/');
    const onKey = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'k') {
        e.preventDefault();
        show('palette');
        return;
      }
      if (isTyped(e)) return;
      if (e.key === '?') return show('help');
      if (e.key === 'u') return toggle();
      if (e.key === 'w' && document.activeElement instanceof HTMLElement)
        return (
          document.activeElement.closest<HTMLElement>('[data-why]') ??
          document.querySelector<HTMLElement>('[data-why]')
        )?.click();
      if (area !== 'fields' || !fieldId) return;
      const at = STATION_KEYS[Number(e.key) - 1];
      if (at) router.push(`/fields/${fieldId}/${at}` as Route);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [path, router, toggle, show]);
}

function Shell({ people, actorId, role, today, demo, actAs, children }: FrameProps) {
  const path = usePathname();
  const [shown, setShown] = useState<'palette' | 'help' | null>(null);
  const [menu, setMenu] = useState(false);
  const [pending, start] = useTransition();
  const hydrated = useHydrated();
  useShortcuts(setShown);
  const area = path.split('/')[1];
  const { toggle } = useUnits();
  const actions = [
    {
      label: 'Change between kg/ha and lb/ac',
      words: 'units metric imperial us acres pounds bushels settings',
      run: toggle,
    },
    {
      label: 'Change between light and dark',
      words: 'theme night colours contrast settings',
      run: flipTheme,
    },
    { label: 'Keys', words: 'help keyboard shortcuts', run: () => setShown('help') },
  ];
  return (
    <>
      <a href="#main" className="sr-only focus:not-sr-only">
        To the content
      </a>
      <header className="no-print relative flex items-center gap-x-4 border-b border-rule px-4 py-2 sm:flex-wrap sm:gap-y-1">
        <Link
          href="/"
          className="font-serif text-[1.15rem] font-semibold whitespace-nowrap no-underline"
        >
          Patient Furrow
        </Link>
        <span className="note max-sm:hidden">
          {today}
          {demo ? ', demo date' : ''}
        </span>
        <div className="ml-auto flex items-center gap-x-3 sm:flex-wrap sm:gap-y-1">
          <button type="button" className="button" onClick={() => setShown('palette')}>
            <Search size={14} aria-hidden />
            <span className="max-sm:sr-only">Find</span>
            <kbd className="note max-sm:hidden">Ctrl K</kbd>
          </button>
          <UnitSwitch />
          <button
            type="button"
            className="button px-2 sm:hidden"
            aria-label="Who acts, light or dark"
            aria-expanded={menu}
            onClick={() => setMenu(!menu)}
          >
            <Menu size={16} aria-hidden />
          </button>
          <div
            className={`${menu ? 'flex' : 'hidden'} items-center gap-x-3 max-sm:absolute max-sm:top-full max-sm:right-2 max-sm:z-40 max-sm:border-2 max-sm:border-ink max-sm:bg-raised max-sm:p-3 sm:flex`}
          >
            <label className="flex items-center gap-1">
              <span className="note">acting as</span>
              <select
                className="box"
                value={actorId}
                disabled={pending || !hydrated}
                onChange={(e) => {
                  const id = e.target.value;
                  start(() => actAs(id));
                }}
              >
                {people.map((p) => (
                  <option key={p.id} value={p.id}>
                    {p.name}
                  </option>
                ))}
              </select>
              <span className="note">{role}</span>
            </label>
            <ThemeSwitch />
          </div>
        </div>
      </header>
      <div className="flex flex-col md:flex-row">
        <nav
          aria-label="Areas"
          className="no-print flex gap-1 overflow-x-auto border-b border-rule px-2 py-1 md:w-28 md:flex-none md:flex-col md:border-r md:border-b-0 md:px-0 md:py-4"
        >
          {RAIL.map((r) => {
            const here =
              r.href === '/' ? area === '' : `/${area === 'farms' ? 'fields' : area}` === r.href;
            return (
              <Link
                key={r.href}
                href={r.href}
                aria-current={here ? 'page' : undefined}
                className={`px-3 py-1.5 no-underline md:border-l-4 ${here ? 'border-ink font-bold' : 'border-transparent'}`}
              >
                {r.label}
              </Link>
            );
          })}
        </nav>
        <main id="main" className="min-w-0 flex-1 px-4 py-3">
          {children}
        </main>
      </div>
      {shown === 'palette' && <Palette actions={actions} onClose={() => setShown(null)} />}
      {shown === 'help' && <Help onClose={() => setShown(null)} />}
    </>
  );
}

/** Top line, rail, reasons drawer, shortcuts: the same frame around every screen. */
export function Frame(props: FrameProps) {
  return (
    <UnitsProvider>
      <WhyProvider>
        <Shell {...props} />
      </WhyProvider>
    </UnitsProvider>
  );
}
