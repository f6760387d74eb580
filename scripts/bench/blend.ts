// The cheapest blend of forty products under twelve limits. The aim is 100 ms; where the rates alone
// hold a handful or too many products, the choice of products is searched and takes longer.
import { PRINTED } from '../../src/core/book/book';
import { fertilisers } from '../../src/core/book/fertilisers';
import { blendLp, type BlendInput } from '../../src/core/nitrogen/blend';

const RUNS = 9;
const middle = (list: number[]): number => list.toSorted((a, b) => a - b)[RUNS >> 1] ?? 0;

export async function blend(): Promise<void> {
  const candidates = fertilisers(PRINTED)
    .filter((f) => f.nTotalPct + f.pPct + f.kPct > 0)
    .slice(0, 40)
    .map((f) => f.productId);
  const limits = {
    candidates,
    minKgHa: { n: 120, p: 20, k: 60, s: 15, mg: 5 },
    maxKgHa: { n: 125, p: 30, k: 80, s: 40, cl: 60, mg: 20 },
    maxNPerPassKgHa: 130,
  };
  const cases: [string, BlendInput][] = [
    ['at most 10 products, no least rate', { ...limits, maxProducts: 10, minRateKgHa: 0 }],
    ['at most 4 products, 40 kg/ha each', { ...limits, maxProducts: 4 }],
  ];
  for (const [name, input] of cases) {
    const took: number[] = [];
    for (let k = 0; k < RUNS + 1; k++) {
      const began = performance.now();
      await blendLp(PRINTED, input);
      // The first run fetches the solver.
      if (k > 0) took.push(performance.now() - began);
    }
    console.log(`blend of 40 products, 12 limits, ${name}: ${middle(took).toFixed(0)} ms`);
  }
}
