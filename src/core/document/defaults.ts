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
/** A field of which only soil and size are known. */
export const PLAIN_FIELD: Pick<Plan['field'], 'fixes' | 'slopePct' | 'near' | 'forage'> = {
  fixes: 'none',
  slopePct: null,
  near: [],
  forage: null,
};
