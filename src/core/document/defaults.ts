import type { Plan } from './document';

/** The stand of which nothing special is known. */
export const PLAIN_STAND: Plan['season']['stand'] = {
  companionLegume: false,
  firstTimeHere: false,
  nodulesFailed: false,
  afterBareFallow: false,
  stressed: false,
  winterCover: false,
  strawWashed: false,
  pruningsTDmHa: 0,
  otherLimitRy: null,
};
/** What a water may hold that nobody has measured. */
export const PLAIN_WATER = { so4sMgL: null, kMgL: null, clMgL: null, sampledOn: null } as const;
/** Irrigation of which only the amount will be known. */
export const newWater = (): NonNullable<Plan['irrigation']> => ({
  mm: 0,
  no3nMgL: null,
  shareBeforeRunDown: 1,
  ...PLAIN_WATER,
});
/** A field of which only soil and size are known. */
export const PLAIN_FIELD: Pick<
  Plan['field'],
  'fixes' | 'drainageClass' | 'slopePct' | 'near' | 'forage'
> = {
  fixes: 'none',
  drainageClass: null,
  slopePct: null,
  near: [],
  forage: null,
};
