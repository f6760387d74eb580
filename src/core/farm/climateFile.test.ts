import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { readClimate } from './climateFile';

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const T = [20.1, 19.6, 17.4, 13.8, 10.5, 7.9, 7.2, 8.6, 10.8, 13.4, 16, 18.7];
const RAIN = [50, 42, 60, 55, 70, 80, 85, 78, 66, 62, 58, 55];
const file = (head: string, row: (i: number) => string, delimiter = ',') =>
  new TextEncoder().encode(
    [head, ...MONTHS.map((_, i) => row(i))].join('\n').replaceAll(',', delimiter),
  );
const refused = async (bytes: Uint8Array) => {
  try {
    await readClimate(bytes, 'Ours');
  } catch (e) {
    if (e instanceof Refusal) return e.message;
    throw e;
  }
  throw new Error('was not refused');
};

describe('a farm’s own climate', () => {
  it('is twelve months of temperature, rain and evaporation', async () => {
    const { name, months } = await readClimate(
      file(
        'Month,Mean temp (°C),Rain mm,ET0 mm',
        (i) => `${MONTHS[i]},${T[i]},${RAIN[i]},${30 + i}`,
      ),
      'Ours',
    );
    expect(name).toBe('Ours');
    expect(months.map((m) => m.tMeanC)).toEqual(T);
    expect(months.map((m) => m.rainMm)).toEqual(RAIN);
    expect(months[11]).toMatchObject({ et0Mm: 41, tRangeC: null });
  });
  it('comes in other languages, orders and marks', async () => {
    const german = [
      'Januar',
      'Februar',
      'März',
      'April',
      'Mai',
      'Juni',
      'Juli',
      'August',
      'September',
      'Oktober',
      'November',
      'Dezember',
    ];
    const rows = [...german.keys()]
      .reverse()
      .map((i) => `${german[i]};${String(T[i]).replace('.', ',')};${RAIN[i]}`);
    const { months } = await readClimate(
      new TextEncoder().encode(['Monat;Temperatur;Niederschlag', ...rows].join('\r\n')),
      'Hof',
    );
    expect(months.map((m) => m.tMeanC)).toEqual(T);
    const french = [
      'janv',
      'févr',
      'mars',
      'avr',
      'mai',
      'juin',
      'juil',
      'août',
      'sept',
      'oct',
      'nov',
      'déc',
    ];
    const fr = await readClimate(
      file('Mois,T moyenne,Précipitations', (i) => `${french[i]},${T[i]},${RAIN[i]}`),
      'Ferme',
    );
    expect(fr.months.map((m) => m.rainMm)).toEqual(RAIN);
  });
  it('takes highest and lowest for the mean and its range, °F and inches at their word', async () => {
    const { months } = await readClimate(
      file('month,Max °F,Min °F,Precip (in)', (i) => `${i + 1},68,50,${i === 0 ? 2 : 1}`),
      'Ours',
    );
    expect(months[0]).toEqual({ tMeanC: 15, tRangeC: 10, rainMm: 50.8, et0Mm: null });
  });
  it.each<[string, Uint8Array, RegExp]>([
    ['no headings', file('a,b,c', (i) => `${i},1,2`), /No row names temperature and rain/u],
    [
      'eleven months',
      file('month,temp,rain', (i) => (i === 4 ? ',,' : `${i + 1},9,50`)),
      /Months 5 are not/u,
    ],
    [
      'a month twice',
      file('month,temp,rain', (i) => `${i === 4 ? 4 : i + 1},9,50`),
      /Month 4 stands twice/u,
    ],
    [
      'a hole',
      file('month,temp,rain', (i) => `${i + 1},${i === 2 ? '' : 9},50`),
      /Month 3: temperature or rain is missing/u,
    ],
    [
      '°F without a word',
      file('month,temp,rain', (i) => `${i + 1},68,50`),
      /Month 1: Mean temperature.*-40 to 45/u,
    ],
    ['words', file('month,temp,rain', (i) => `${i + 1},warm,50`), /warm is no number/u],
  ])('%s is refused by name', async (_, bytes, message) =>
    expect(await refused(bytes)).toMatch(message),
  );
});
