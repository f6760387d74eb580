import { BLANK_LAB } from '../core/document/organicDefaults';
import type { Plan } from '../core/document/document';
import { layers, legume, pass, pkMg, reading, spread } from './build';
import { tansyHollow } from './tansyHollow';

/** The plan that docs/worked-example.md works by hand: Terrace Short, sugar beet, 65 t/ha. */
export function terraceShortWorked(): Plan {
  const blank = tansyHollow.fields.find((f) => f.key === 'terrace-short')?.seasons[0] as Plan;
  return reading({
    ...blank,
    season: {
      ...blank.season,
      cropKey: 'sugar_beet',
      yieldGoalTHa: 65,
      plantingDate: '2027-03-25',
      harvestDate: '2027-10-20',
      soilTempSeasonC: 14,
      releaseDays: 150,
    },
    ground: {
      ...blank.ground,
      sampleDate: '2027-02-24',
      laboratory: 'Senn laboratory',
      depthCm: 20,
      phWater: 6.8,
      readings: pkMg(13, 164, 58),
      nitrateSampleDate: '2027-02-12',
      nitrateLayers: layers(8, 5),
    },
    previous: legume({
      legumeKey: 'red_clover_hay',
      standClass: 'good',
      legumeCoverPct: 25,
      regrowth: 'none',
      killTiming: 'autumn_late',
      tillage: 'inversion',
      climate: null,
      overlap: 'autumn_kill_spring_sample',
    }),
    manureHistory: 'yes',
    organics: [
      spread('worked-sheep', {
        date: '2027-02-26',
        materialKey: 'sheep_bedded',
        rate: 14,
        methodKey: 'solid_broadcast',
        lab: {
          ...BLANK_LAB,
          date: null,
          totalNKgT: 8,
          nh4NKgT: 1.6,
          no3NKgT: null,
          pKgT: 1.5,
          kKgT: 9,
          sKgT: null,
          dmPct: null,
          cToN: null,
        },
        coverings: [{ kind: 'plough_inversion', hours: 4 }],
      }),
      spread('worked-earlier', {
        date: '2026-03-15',
        materialKey: 'sheep_bedded',
        rate: 20,
        methodKey: 'solid_broadcast',
        status: 'done',
        cropYear: 2,
      }),
    ],
    passes: [
      pass('worked-1', '2027-03-25', 'can_27', 140, 'broadcast_incorporated'),
      pass('worked-2', '2027-05-10', 'can_27', 120, 'broadcast_surface'),
    ],
  });
}
