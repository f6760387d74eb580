// @vitest-environment jsdom
import { cleanup, fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it } from 'vitest';
import { spread } from '@/demo/build';
import { tansyHollow } from '@/demo/tansyHollow';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import type { Plan } from '@/core/document/document';
import { BLANK_LAB } from '@/core/document/organicDefaults';
import { desk, showPart } from '../workspace/testDesk';
import type { FarmGear } from './gear';
import { OrganicsPart } from './OrganicsPart';

afterEach(() => {
  cleanup();
  localStorage.clear();
});
const gear: FarmGear = {
  stores: tansyHollow.stores.map(({ key, ...s }) => ({ id: key, ...s })),
  machines: tansyHollow.machines.map(({ key, ...m }) => ({ id: key, ...m })),
};
const withDressing = (o: Partial<Plan['organics'][number]> = {}): Plan => ({
  ...terraceShortWorked(),
  organics: [
    spread('d', {
      date: '2027-03-05',
      materialKey: 'sheep_bedded',
      rate: 14,
      methodKey: 'solid_broadcast',
      ...o,
    }),
  ],
});
const put = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const tab = (name: string) => userEvent.click(screen.getByRole('tab', { name }));
const dressing = () => desk.plan.organics[0];

describe('the planner of manure and compost', () => {
  it('begins with a dressing of the first store, and takes its analysis with the one before', async () => {
    showPart(<OrganicsPart gear={gear} />, { ...terraceShortWorked(), organics: [] });
    expect(screen.getByText(/No manure or compost this season yet/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Dressing' }));
    await userEvent.selectOptions(screen.getByLabelText('From the store'), 'sheep-house');
    expect(dressing()).toMatchObject({
      storeId: 'sheep-house',
      lab: { date: '2026-11-03', totalNKgT: 8, earlier: { date: '2025-11-08', totalNKgT: 7.6 } },
    });
    await userEvent.selectOptions(screen.getByLabelText('From the store'), '');
    expect(dressing()?.storeId).toBeNull();
  });
  it('what was printed stays when the report is read in another unit', async () => {
    showPart(
      <OrganicsPart gear={gear} />,
      withDressing({
        materialKey: 'dairy_slurry_medium',
        rate: 30,
        rateUnit: 'm3_ha',
        methodKey: 'splash_low',
      }),
    );
    await tab('Analysis');
    put('Total N', '21.8');
    put('Ammonium-N', '10');
    put('P', '4.4');
    put('K', '17.6');
    expect(screen.getByText(/The values look like lb per 1000 US gallons/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Read it as lb per 1000 US gal' }));
    expect((screen.getByLabelText('Total N') as HTMLInputElement).value).toBe('21.8');
    expect(dressing()?.lab?.totalNKgT).toBeCloseTo(2.586, 3);
    expect(screen.queryByText(/The values look like/)).toBeNull();
    await userEvent.selectOptions(screen.getByLabelText('on', { selector: 'select' }), 'dry');
    expect(screen.getByText(/M10/)).toBeTruthy();
    expect(dressing()?.lab?.report?.basis).toBe('as_received');
  });
  it('an analysis that contradicts itself is refused in words, and stays to be put right', async () => {
    showPart(<OrganicsPart gear={gear} />, withDressing());
    await tab('Analysis');
    put('Total N', '5');
    put('Ammonium-N', '9');
    expect(screen.getByText(/ammonium-N 9 kg\/t exceed total N 5/)).toBeTruthy();
    expect(dressing()?.lab).toMatchObject({ totalNKgT: 5, nh4NKgT: 9 });
  });
  it('the machine decides passes, the trip its worth', async () => {
    showPart(<OrganicsPart gear={gear} />, withDressing({ rate: 50 }));
    await tab('Worth and haulage');
    await userEvent.selectOptions(screen.getByLabelText('Machine'), 'rear-spreader');
    expect(screen.getByText('2 passes, the machine set to 25.0 t/ha.')).toBeTruthy();
    expect(dressing()?.machine).toMatchObject({
      name: 'Rear-discharge spreader',
      maxRate: 40,
      calibration: { cvPct: 26 },
    });
    expect(within(screen.getByTestId('worth')).queryByText('Net')).toBeNull();
    put('Distance, one way', '3');
    expect(within(screen.getByTestId('worth')).getByText('Net')).toBeTruthy();
    put('Rate', '5');
    expect(screen.getByText(/Below what Rear-discharge spreader spreads evenly/)).toBeTruthy();
  });
  it('rings: the material for a tree, and a wrong ring named', async () => {
    showPart(<OrganicsPart gear={gear} />, withDressing());
    await tab('How it is laid');
    await userEvent.selectOptions(
      screen.getByLabelText('It is laid', { selector: 'select' }),
      'ring',
    );
    expect(screen.getByTestId('ring').textContent).toContain('500 plants a hectare');
    put('Canopy radius', '0.1');
    put('Beyond the canopy', '0.1');
    expect(screen.getByRole('alert').textContent).toContain('does not lie beyond the clear 0.6 m');
    put('Canopy radius', '2.5');
    await userEvent.click(screen.getByRole('button', { name: 'Take this rate' }));
    expect(dressing()?.rate).toBeGreaterThan(0);
  });
  it('layers and standing crops ask for what they need', async () => {
    showPart(
      <OrganicsPart gear={gear} />,
      withDressing({ materialKey: 'compost_green_waste', methodKey: 'compost_broadcast' }),
    );
    await tab('How it is laid');
    await userEvent.selectOptions(
      screen.getByLabelText('It is laid', { selector: 'select' }),
      'layer',
    );
    expect(screen.getByTestId('layer').textContent).toMatch(/years of off-take/);
    await userEvent.selectOptions(
      screen.getByLabelText('It is laid', { selector: 'select' }),
      'in_crop',
    );
    put('Stand lost', '20');
    expect(screen.getByText(/costs about 11\.0 % of the yield/)).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText('Crop'), 'grass_cut');
    expect(dressing()?.use).toMatchObject({ cropGroup: 'grass_cut', technique: 'trailing_shoe' });
  });
  it('the day, the neighbours and the papers of a dressing', async () => {
    showPart(<OrganicsPart gear={gear} />, withDressing({ rate: 40 }));
    await tab('Day, ground and records');
    put('Rain within 48 h, forecast', '30');
    expect(screen.getByText('30 mm of rain within 48 h: run-off to water.')).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText('Ground'), 'frozen');
    expect(screen.getByText('Ground is frozen: manure runs off.')).toBeTruthy();
    await userEvent.click(screen.getByLabelText('it will touch seed or roots'));
    expect(screen.getByText('Salt and ammonia injury near roots.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Water, well, house or road' }));
    put('kept clear', '5');
    expect(screen.getByText('Setback to surface water is 5 m (needs 30 m).')).toBeTruthy();
    expect(desk.plan.field.near).toEqual([
      { feature: 'surface_water', situation: 'broadcast', metres: 5 },
    ]);
    await userEvent.click(screen.getByRole('button', { name: 'Remove surface water' }));
    expect(desk.plan.field.near).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'Remove this dressing' }));
    expect(desk.plan.organics).toEqual([]);
  });
  it('what decides the ammonia: ground, cover, pH, and a second covering', async () => {
    showPart(
      <OrganicsPart gear={gear} />,
      withDressing({
        materialKey: 'dairy_slurry_medium',
        rate: 30,
        rateUnit: 'm3_ha',
        methodKey: 'splash_low',
        coverings: [{ kind: 'rain_4_to_10_mm', hours: 6 }],
      }),
    );
    await tab('Placement');
    await userEvent.selectOptions(screen.getByLabelText('The ground is'), 'dry_crusted');
    await userEvent.selectOptions(screen.getByLabelText('under'), 'short_grass');
    await userEvent.click(screen.getByLabelText('acidified'));
    put('pH of the material', '5.4');
    await userEvent.click(screen.getByRole('button', { name: 'Rain, water or tillage later' }));
    await userEvent.selectOptions(screen.getByLabelText('then 2'), 'plough_inversion');
    put('after 2', '20');
    expect(dressing()).toMatchObject({
      soil: 'dry_crusted',
      cover: 'short_grass',
      acidified: true,
      materialPh: 5.4,
      coverings: [
        { kind: 'rain_4_to_10_mm', hours: 6 },
        { kind: 'plough_inversion', hours: 20 },
      ],
    });
    await userEvent.click(screen.getByRole('button', { name: 'Remove covering 2' }));
    expect(dressing()?.coverings).toHaveLength(1);
  });
  it('part of the field, and whether a compost is ready', async () => {
    showPart(
      <OrganicsPart gear={gear} />,
      withDressing({
        materialKey: 'compost_green_waste',
        methodKey: 'compost_broadcast',
        lab: { ...BLANK_LAB, cToN: 14 },
      }),
    );
    await tab('How it is laid');
    put('Share of the field spread', '0.5');
    expect(screen.getByText(/2\.60 of 5\.2 ha/)).toBeTruthy();
    await tab('Day, ground and records');
    expect(screen.getByTestId('maturity').textContent).toContain('By its tests: doubtful');
    put('Ammonium-N of its dry matter', '150');
    put('Cress against control', '96');
    expect(screen.getByTestId('maturity').textContent).toContain('By its tests: mature');
    await userEvent.selectOptions(screen.getByLabelText('It smells'), 'sour');
    expect(screen.getByText(/The heap smells sour/)).toBeTruthy();
    put('Cress against control', '60');
    expect(
      screen.getByText(/The compost fails: cress or radish germination against control 60/),
    ).toBeTruthy();
  });
  it('a figure below the laboratory’s limit is typed as it stands, Kjeldahl N as it is called', async () => {
    showPart(<OrganicsPart gear={gear} />, withDressing());
    await tab('Analysis');
    put('Nitrate-N', '<0.4');
    expect(dressing()?.lab).toMatchObject({ no3NKgT: 0.2, report: { below: ['no3NKgT'] } });
    expect(screen.getByText(/below the limit: half counted/)).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText('N is given as'), 'kjeldahl');
    put('Kjeldahl N', '8');
    expect(dressing()?.lab?.totalNKgT).toBeCloseTo(8.2, 9);
    expect((screen.getByLabelText('Kjeldahl N') as HTMLInputElement).value).toBe('8');
    put('Nitrate-N', '<x');
    expect(screen.getByRole('alert').textContent).toContain('Nitrate-N');
  });
  it('the mean of the last analyses of its store, where they agree', async () => {
    showPart(<OrganicsPart gear={gear} />, withDressing({ storeId: 'sheep-house' }));
    await userEvent.click(screen.getByRole('button', { name: 'Take the mean of its last 2' }));
    expect(dressing()?.lab).toMatchObject({ totalNKgT: 7.8, pKgT: 1.45, dmPct: 30.5 });
  });
  it('the same load in autumn, before planting and in the crop', async () => {
    showPart(
      <OrganicsPart gear={gear} />,
      withDressing({
        date: '2027-06-01',
        materialKey: 'dairy_slurry_thin',
        rate: 25,
        rateUnit: 'm3_ha',
        methodKey: 'trailing_hose',
        use: {
          kind: 'in_crop',
          cropGroup: 'maize',
          technique: 'drag_hose',
          bbch: null,
          vStage: 3,
          standLossPct: 2,
          wheelPan: false,
        },
      }),
    );
    await tab('How it is laid');
    const rows = within(screen.getByTestId('times'))
      .getAllByRole('row')
      .map((r) => r.textContent);
    expect(rows).toHaveLength(4);
    expect(rows[3]).toContain('20 Oct 2026');
  });
  it('may be read and not changed by who may not', async () => {
    showPart(<OrganicsPart gear={gear} />, withDressing(), true);
    expect(screen.queryByRole('button', { name: 'Dressing' })).toBeNull();
    expect((screen.getByLabelText('Rate') as HTMLInputElement).disabled).toBe(true);
  });
});
