import { kestrelTerrace } from './kestrelTerrace';
import { quernOrchard } from './quernOrchard';
import { tansyHollow } from './tansyHollow';

/** The three demo farms that Ines Calloway advises. */
export const DEMO_FARMS = [tansyHollow, kestrelTerrace, quernOrchard] as const;
export const DEMO_ADVISOR = { key: 'ines-calloway', name: 'Ines Calloway' };
