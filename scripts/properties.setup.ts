import fc from 'fast-check';

// One seed, so that the same commit gives the same verdict on every machine; FURROW_SEED explores
// others (README).
fc.configureGlobal({ seed: Number(process.env.FURROW_SEED ?? 20270226) });
