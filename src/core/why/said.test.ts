import { describe, expect, it } from 'vitest';
import { exactly, figureIn, inWords, joined, said, toldThroughout } from './said';

describe('what core says', () => {
  it('keeps its figures apart, and its words whole', () => {
    const label = said`Requirement, ${60} t/ha`;
    expect(label).toEqual({
      text: 'Requirement, {0} t/ha',
      fill: { 0: { value: 60, decimals: null } },
    });
    expect(inWords(label)).toBe('Requirement, 60 t/ha');
    expect(inWords('by table', 'us')).toBe('by table');
    expect(inWords(said`nothing to fill`)).toBe('nothing to fill');
  });
  it.each([
    [said`Requirement, ${60} t/ha`, 'Requirement, 26.8 ton/ac'],
    [said`Green manure, ${3.2} t DM/ha`, 'Green manure, 1.4 ton DM/ac'],
    [said`Slurry, ${30} m3/ha`, 'Slurry, 3207 gal/ac'],
    [said`${40.2} kg N/ha not placed`, '36 lb N/ac not placed'],
    [said`on ${6.4} ha.`, 'on 15.8 ac.'],
    [said`${12} days at ${exactly(14.26, 1)} °C`, '12 days at 14.3 °C'],
    [said`${5} kg/hadron and ${5} kg`, '5 kg/hadron and 5 kg'],
    [said`${'some'} kg/ha`, 'some kg/ha'],
  ])('%j in the units of the other side', (words, us) => expect(inWords(words, 'us')).toBe(us));
  it('tells a bare number shortly, as a rule wants it', () => {
    const of = (x: number) => inWords({ text: '{x} kg', fill: { x } });
    expect([of(12.34), of(3.21), of(3)]).toEqual(['12 kg', '3.2 kg', '3 kg']);
    expect(inWords({ text: 'a {gap} stays', fill: {} })).toBe('a {gap} stays');
  });
  it('goes together, figures and all', () => {
    const both = joined([said`C:N ${18}`, said`${20} % carried off`], ', ');
    expect(inWords(both)).toBe('C:N 18, 20 % carried off');
    expect(Object.keys(both.fill)).toHaveLength(2);
  });
  it('a figure with its unit goes over to the other units, or stays', () => {
    expect(figureIn(112.085, 'kg N/ha', 'us')).toEqual({
      value: expect.closeTo(100, 9) as number,
      unit: 'lb N/ac',
    });
    expect(figureIn(5, 'mg/kg', 'us')).toEqual({ value: 5, unit: 'mg/kg' });
    expect(figureIn(5, 'kg/ha', 'metric')).toEqual({ value: 5, unit: 'kg/ha' });
  });
  it('is told throughout a result, and nothing else of it changes', () =>
    expect(
      toldThroughout({ a: [{ message: said`${7} kg/ha` }], text: 'x', n: null, d: { text: 'y' } }),
    ).toEqual({ a: [{ message: '7 kg/ha' }], text: 'x', n: null, d: { text: 'y' } }));
});
