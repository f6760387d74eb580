import { describe, expect, it } from 'vitest';
import { assessSeason } from '../assessment/assess';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import { bookOf } from '../book/book';
import { climateOf } from '../book/stages';
import type { Plan } from '../document/document';
import { dateAfter } from '../quantity/calendar';
import { Refusal, type RefusalDetail } from '../quantity/refusal';
import { outlookOf } from './outlook';
import { readWeather, realYears, weatherAnswers } from './weatherFile';
import { generateWeather } from './weather';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const refused = async (work: Promise<unknown>): Promise<RefusalDetail> =>
  work.then(
    () => expect.unreachable('it was read'),
    (e: unknown) => (e as Refusal).detail,
  );
const HEAD = 'date,tmin °C,tmax °C,rain mm';

describe('daily weather of a station', () => {
  it.each([
    ['English', 'Date,Tmin (°C),Tmax (°C),Rain (mm)\n2020-05-01,4,15,2.5'],
    [
      'German',
      'Datum;Temperatur Minimum °C;Temperatur Maximum °C;Niederschlag mm\n01.05.2020;4,0;15,0;2,5',
    ],
    ['French', 'Jour;T min °C;T max °C;Pluie mm\n01/05/2020;4;15;2,5\n13/05/2020;4;15;0'],
    ['US', 'date,tmin F,tmax F,precip in\n2020-05-01,39.2,59,0.0984252'],
  ])('%s headings, decimals and units', async (_, text) => {
    const { days } = await readWeather(bytes(text));
    const day = days.get('2020-05-01');
    expect(day?.tMin).toBeCloseTo(4, 6);
    expect(day?.tMax).toBeCloseTo(15, 6);
    expect(day?.rainMm).toBeCloseTo(2.5, 4);
  });
  it('a maximum no place reaches was °F; where both may be, it asks', async () => {
    const rows = (max: number) =>
      Array.from({ length: 5 }, (_, d) => `${dateAfter('2020-07-01', d)},${max - 15},${max},1`);
    const file = (max: number) => bytes(['date,tmin,tmax,rain mm', ...rows(max)].join('\n'));
    expect((await readWeather(file(86))).told).toContain('temperatures read as °F');
    expect((await readWeather(file(22))).told).toContain('temperatures read as °C');
    expect(await refused(readWeather(file(45)))).toMatchObject({
      field: 'temperature',
      allowed: 'c, f',
    });
    const said = await readWeather(file(45), { temperature: 'f' });
    expect(said.days.get('2020-07-01')?.tMax).toBeCloseTo(7.2, 1);
  });
  it('rain of a desert or in inches is asked', async () => {
    const rows = Array.from(
      { length: 100 },
      (_, d) => `${dateAfter('2020-01-01', d)},2,9,${d % 3 === 0 ? 0.4 : 0}`,
    );
    const file = bytes(['date,tmin °C,tmax °C,rain', ...rows].join('\n'));
    expect(await refused(readWeather(file))).toMatchObject({ field: 'rain', allowed: 'mm, in' });
    expect((await readWeather(file, { rain: 'in' })).days.get('2020-01-01')?.rainMm).toBeCloseTo(
      10.16,
    );
    expect((await readWeather(file, { rain: 'mm' })).days.get('2020-01-01')?.rainMm).toBe(0.4);
  });
  it('days that may be read two ways are asked', async () => {
    const file = bytes(`${HEAD}\n03/04/2020,1,9,0\n05/06/2020,1,9,0`);
    expect((await refused(readWeather(file))).field).toBe('dates');
    expect([...(await readWeather(file, { dates: 'mdy' })).days.keys()]).toEqual([
      '2020-03-04',
      '2020-05-06',
    ]);
  });
  it('a day that stands twice alike is told, with other figures refused by its rows', async () => {
    const twice = `${HEAD}\n2020-05-01,4,15,2\n2020-05-01,4,15,2\n2020-05-03,4,15,0`;
    const { told } = await readWeather(bytes(twice));
    expect(told).toContain('1 rows stood twice with the same figures');
    expect(told).toContain('1 days between the first and the last are missing');
    const other = `${HEAD}\n2020-05-01,4,15,2\n2020-05-01,4,15,9`;
    expect((await refused(readWeather(bytes(other)))).message).toContain('in rows 2 and 3');
  });
  it('a day without a figure is missing, never dry', async () => {
    const { days, told } = await readWeather(
      bytes(`${HEAD}\n2020-05-01,4,15,2\n2020-05-02,4,15,\n2020-05-03,,15,0`),
    );
    expect([...days.keys()]).toEqual(['2020-05-01']);
    expect(told).toContain('2 rows without temperature or rain');
  });
  it.each([
    ['no headings', '2020-05-01,4,15,2', 'No row names a date'],
    ['a word for a figure', `${HEAD}\n2020-05-01,4,warm,2`, 'warm is no number'],
    ['a day that is none', `${HEAD}\n2020-05-01,4,15,2\n2020-13-44,4,15,2`, 'is no day'],
    ['a minimum above the maximum', `${HEAD}\n2020-05-01,24,15,2`, '1 May 2020'],
    ['rain below 0', `${HEAD}\n2020-05-01,4,15,-2`, '1 May 2020'],
  ])('%s: told by place', async (_, text, words) =>
    expect((await refused(readWeather(bytes(text)))).message).toContain(words),
  );
  it('answers are checked', () =>
    expect(() => weatherAnswers({ temperature: 'kelvin' })).toThrow(Refusal));
});

/** So many years of a station, out of the generator. */
function station(years: number): Uint8Array {
  const rows = Array.from({ length: years }, (_, y) => {
    const start = `${2001 + y}-01-01`;
    const days = (2001 + y) % 4 === 0 ? 366 : 365;
    const w = generateWeather({
      climate: climateOf('maritime_cool_52n'),
      start,
      days,
      latitudeDeg: 52,
      seed: 7,
      year: y,
    });
    return Array.from(
      { length: days },
      (_d, d) =>
        `${dateAfter(start, d)},${w.tMinC[d]?.toFixed(2)},${w.tMaxC[d]?.toFixed(2)},${w.rainMm[d]?.toFixed(2)}`,
    );
  });
  return bytes([HEAD, ...rows.flat()].join('\n'));
}

describe('a plan over the years of a station', () => {
  const [, beet] = DEMO_PLANS.find(([n]) => n.startsWith('low-fleet 2026')) as [string, Plan];
  const look = async (file: Uint8Array) => {
    const book = bookOf(beet.farm.library);
    const { plan, calendar, assessment } = assessSeason(book, beet);
    return outlookOf(book, plan, assessment, calendar, { station: await readWeather(file) });
  };
  it('runs each year once and says which', async () => {
    const o = await look(station(12));
    if (typeof o === 'string') throw new Error(o);
    expect(o.years).toBe(12);
    expect(o.weather).toContain('2001');
    expect(o.weather).toContain('2012');
  });
  it('with fewer than ten years says so, and takes no gap for dry weather', async () => {
    expect(await look(station(6))).toContain('6 years without a gap');
    const read = await readWeather(station(12));
    const holed = { ...read, days: new Map([...read.days].filter(([d]) => d !== '2005-06-10')) };
    const { years, leftOut } = realYears(holed, '2005-02-12', 265, 52);
    expect(years.map((y) => y.year)).not.toContain(2005);
    expect(leftOut).toContainEqual({ year: 2005, missing: 1 });
  });
});
