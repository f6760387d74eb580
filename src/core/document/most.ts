// Limits of the document that pages know too: apart from its checker, which a page need not fetch.

/** Passes that a plan holds. */
export const MOST_PASSES = 20;
