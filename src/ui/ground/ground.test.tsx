// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { checkOutline, type Outline } from '@/core/ground/outline';
import { layOutSamples } from '@/core/ground/samplingLayout';
import type { SamplingPlan } from '@/core/ground/samplingPlan';
import type { ClaimInput } from '@/core/ground/claim';
import { DEMO_FARMS } from '@/demo/scenario';
import type { Plan } from '@/core/document/document';
import { UnitsProvider } from '../frame/units';
import { WhyProvider } from '../frame/why';
import { drawMap } from '../map/draw';
import { boundsOf, fitted, scaleBarM, toGround, toScreen } from '../map/view';
import { desk, showPart } from '../workspace/testDesk';
import { BarrelPart } from './BarrelPart';
import { ClaimChecker } from './ClaimChecker';
import { LimePart } from './LimePart';
import { NutrientsPart } from './NutrientsPart';
import { OutlineEditor } from './OutlineEditor';
import { FieldDoorsProvider, type FieldDoors } from '../workspace/doors';
import { SamplingPart } from './SamplingPart';
import { SurveyPart } from './SurveyPart';
import type { SurveySample } from './surveyScale';
import { samplingModel } from './samplingModel';

vi.mock('next/navigation', () => ({
  useRouter: () => ({ refresh: () => undefined, push: () => undefined }),
}));
// The drawing engine wants a real browser; the table beside the chart is what is tested here.
vi.mock('../chart/engine', () => ({
  init: () => ({ setOption: () => undefined, resize: () => undefined, dispose: () => undefined }),
}));
beforeAll(() => {
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {
        /* no layout in jsdom */
      }
      disconnect() {
        /* nor here */
      }
    },
  );
  vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue(null);
});
afterEach(() => {
  cleanup();
  localStorage.clear();
});

const demo = (key: string): Plan =>
  DEMO_FARMS.flatMap((f) => f.fields).find((f) => f.key === key)?.seasons[0] as Plan;
const outline: Outline = checkOutline({
  coordinates: [
    [
      [-30, 52],
      [-29.996, 52],
      [-29.996, 52.002],
      [-30, 52.002],
    ],
  ],
});
const draft: SamplingPlan = {
  purpose: 'ph_p_k_tilled',
  scheme: 'grid',
  cellAreaHa: 1,
  coresPerSample: 10,
  layers: [{ fromCm: 0, toCm: 20 }],
  headlandM: 0,
  prefix: 'A-',
  labPricePerSample: 14,
  labourPerSample: 3,
  labourPerCore: 0.25,
  zones: [],
  marks: [{ id: 'm', kind: 'gateway', at: [-29.9995, 52.0002], radiusM: 15, note: '' }],
  points: [],
};
const laid: SamplingPlan = { ...draft, points: layOutSamples(outline, draft) };

describe('the barrel', () => {
  it('tells what putting each right would bring, and takes a lower goal by one press', async () => {
    showPart(<BarrelPart />, demo('low-fleet'));
    const rows = within(screen.getByTestId('repairs')).getAllByRole('row');
    expect(rows.map((r) => r.textContent).join(' ')).toMatch(/pH50, 100 %.*see lime/);
    expect(screen.getByTestId('lower-goal').textContent).toContain('32.5 t/ha');
    await userEvent.click(screen.getByRole('button', { name: 'Take this as the goal' }));
    expect(desk.plan.season.yieldGoalTHa).toBe(32.5);
  });
  it('without a crop price it asks for one, and who may only read gets no button', () => {
    const plan = demo('low-fleet');
    showPart(<BarrelPart />, { ...plan, season: { ...plan.season, cropPricePerT: null } }, true);
    expect(screen.getByText(/Give the price of the crop/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Take this as the goal' })).toBeNull();
  });
});

describe('pH and lime', () => {
  it('compares three limes, and the chosen one stays in the plan', async () => {
    showPart(<LimePart />, demo('bay-two'));
    const rows = within(screen.getByTestId('lime-products'));
    expect(rows.getByTestId('lime-calcitic_fine').textContent).toContain('in time');
    expect(rows.getByTestId('lime-dolomitic_ag').textContent).toContain('98 days too late');
    await userEvent.click(screen.getByRole('radio', { name: /fine ground/ }));
    expect(desk.plan.lime?.chosenId).toBe('lime-2');
  });
  it('gives each method its reason, with or without a figure', () => {
    showPart(<LimePart />, demo('bay-two'));
    expect(
      within(screen.getByTestId('lime-methods')).getByRole('row', { name: /^Buffer pH/ })
        .textContent,
    ).toContain('a buffer pH without its kind is unusable');
  });
  it('opens on a field whose lime nobody has touched, and the first edit puts it into the plan', async () => {
    showPart(<LimePart />, demo('low-fleet'));
    expect(screen.getByText('needed now')).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText('Climate'), 'dry');
    expect(desk.plan.lime?.climate).toBe('dry');
    expect(desk.plan.lime?.candidates).toHaveLength(3);
  });
  it('warns of burns where a caustic lime is among the candidates', async () => {
    showPart(<LimePart />, demo('bay-two'));
    expect(screen.queryByText(/Rinse eyes/)).toBeNull();
    await userEvent.selectOptions(screen.getByLabelText('Lime 1'), 'burnt');
    expect(screen.getByText(/Rinse eyes/)).toBeTruthy();
  });
  it('offers a farmer nothing to change', () => {
    showPart(<LimePart />, demo('bay-two'), true);
    expect(
      screen.queryByRole('button', { name: /Another lime|Next crop|Record a spreading/ }),
    ).toBeNull();
  });
});

describe('sulphur, magnesium and trace elements', () => {
  it('have a verdict each, and boron of last year is asked for', async () => {
    showPart(<NutrientsPart />, demo('low-fleet'));
    expect(screen.getByRole('row', { name: /^B / }).textContent).toContain('strip trial first');
    await userEvent.type(screen.getByLabelText('Boron put on'), '2');
    expect(desk.plan.ground.boronLastYearKgHa).toBe(2);
  });
});

describe('the claim checker', () => {
  const keep = vi.fn<(product: string, input: ClaimInput) => Promise<{ ok: true }>>(() =>
    Promise.resolve({ ok: true }),
  );
  const view = (readOnly = false) =>
    render(
      <UnitsProvider>
        <WhyProvider>
          <ClaimChecker
            need={{ lr: 5, gap: 0.8 }}
            kept={[]}
            keep={readOnly ? null : keep}
            drop={null}
          />
        </WhyProvider>
      </UnitsProvider>,
    );
  it('rules out calcium chloride by its chemistry, and keeps the verdict', async () => {
    view();
    expect(screen.getByTestId('claim-result').textContent).toContain('Ruled out by chemistry');
    await userEvent.type(screen.getByLabelText('Name'), 'Liquid lime');
    await userEvent.click(screen.getByRole('button', { name: 'Keep with the field' }));
    expect(keep).toHaveBeenCalledWith(
      'Liquid lime',
      expect.objectContaining({ compound: 'calcium_chloride', lr: 5 }),
    );
  });
  it('asks for a density in litres, and what was typed stays', async () => {
    view();
    await userEvent.clear(screen.getByLabelText('Density'));
    expect(screen.getByRole('alert').textContent).toMatch(/density is required/);
    expect(screen.getByLabelText('Rate')).toHaveProperty('value', '20');
  });
  it('finds a true lime consistent', async () => {
    view();
    await userEvent.selectOptions(screen.getByLabelText('in'), 'kg');
    await userEvent.selectOptions(screen.getByLabelText('Compound'), 'calcium_carbonate');
    fireEvent.change(screen.getByLabelText('Compound in it'), { target: { value: '95' } });
    fireEvent.change(screen.getByLabelText('Rate'), { target: { value: '5200' } });
    await waitFor(() =>
      expect(screen.getByTestId('claim-result').textContent).toContain('Consistent with chemistry'),
    );
  });
});

describe('the sampling plan', () => {
  const answer = <T,>(value: T) => Promise.resolve({ ok: true as const, value });
  const create = vi.fn<FieldDoors['createSamplingPlan']>(() => answer({ id: 'new', version: 1 }));
  const sampling = (createSamplingPlan = create) => (
    <FieldDoorsProvider value={{ createSamplingPlan } as Partial<FieldDoors> as FieldDoors}>
      <SamplingPart outline={outline} longitudeDeg={null} plans={[]} />
    </FieldDoorsProvider>
  );
  it('is laid, told apart by its precision, and saved', async () => {
    showPart(sampling(), demo('low-fleet'));
    await userEvent.selectOptions(screen.getByLabelText('Scheme'), 'grid');
    await userEvent.click(screen.getByRole('button', { name: 'Lay the samples' }));
    expect(within(screen.getByTestId('sample-points')).getAllByRole('row').length).toBeGreaterThan(
      4,
    );
    expect(
      within(screen.getByTestId('precision')).getByRole('row', { name: /^pH/ }).textContent,
    ).toMatch(/\+\/- 0\.\d\d pH/);
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    expect(create).toHaveBeenCalledWith(
      'Low Fleet 2027',
      expect.objectContaining({ scheme: 'grid' }),
    );
    expect(await screen.findByText('The sampling plan is saved.')).toBeTruthy();
  });
  it('says what the server refuses, and what was laid stays', async () => {
    showPart(
      sampling(
        vi.fn<FieldDoors['createSamplingPlan']>(() =>
          Promise.resolve({
            ok: false,
            refusal: {
              code: 'inconsistent',
              field: 'label',
              message: 'The label LF27-01 is used already.',
            },
          }),
        ),
      ),
      demo('low-fleet'),
    );
    await userEvent.click(screen.getByRole('button', { name: 'Lay the samples' }));
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    expect((await screen.findByRole('alert')).textContent).toContain('used already');
    expect(screen.getByTestId('sample-points')).toBeTruthy();
  });
  it('warns of few cores, much ground in one sample, and cables under a deep probe', async () => {
    showPart(sampling(), demo('sheepwalk'));
    await userEvent.selectOptions(screen.getByLabelText('Scheme'), 'whole_field');
    fireEvent.change(screen.getByLabelText('Cores a sample'), { target: { value: '5' } });
    expect(screen.getByText(/^5 cores: at least 12/)).toBeTruthy();
    expect(screen.getByText(/9.5 ha in one sample hides variation/)).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText('Purpose'), 'nitrate_profile');
    expect(screen.getByText(/check for buried cables/)).toBeTruthy();
  });
});

describe('the outline', () => {
  it('is typed corner by corner; a crossing is named and cannot be saved', () => {
    render(
      <UnitsProvider>
        <OutlineEditor
          outline={outline}
          latitudeDeg={52}
          longitudeDeg={null}
          fieldName="Low Fleet"
          save={() => Promise.reject(new Error('not called'))}
          readFile={() => Promise.reject(new Error('not called'))}
          onDone={() => undefined}
          onCancel={null}
        />
      </UnitsProvider>,
    );
    expect(screen.getByText(/ha on the ellipsoid/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText('Corner 1 north'), { target: { value: '500' } });
    expect(screen.getByRole('alert').textContent).toMatch(/cross/);
    expect(screen.getByRole('button', { name: 'Save the outline' })).toHaveProperty(
      'disabled',
      true,
    );
  });
});

describe('map and history', () => {
  const sample = (
    label: string | null,
    date: string,
    phWater: number,
    p: number,
  ): SurveySample => ({
    sample: {
      id: `${label}${date}`,
      date,
      label,
      kind: label ? 'point' : 'composite',
      samplingPlanId: label ? 'plan' : null,
      depthFromCm: 0,
      depthCm: 20,
      nCores: 15,
      nPoints: null,
      moisture: 'moist',
      phWater,
    },
    readings: [
      { nutrient: 'p', extractant: 'olsen', value: p, unit: 'mg_kg', belowDetection: false },
    ],
  });
  it('shows each reading, the mean by area, and a change smaller than the error as none', async () => {
    const points = laid.points.map((p, i) => sample(p.label, '2026-11-12', 5 + i * 0.2, 8 + i * 4));
    showPart(
      <SurveyPart
        outline={outline}
        plans={[{ id: 'plan', name: 'Grid', createdOn: '2026-11-01', document: laid, version: 1 }]}
        samples={[
          ...points,
          sample(null, '2022-11-10', 5.4, 14),
          sample(null, '2026-11-12', 5.5, 15),
        ]}
      />,
      demo('low-fleet'),
    );
    expect(screen.getByTestId('field-mean').textContent).toMatch(/^Mean 5\.\d\d by area/);
    expect(within(screen.getByTestId('survey-points')).getAllByRole('row')).toHaveLength(
      laid.points.length + 1,
    );
    expect(screen.getByTestId('history').textContent).toContain('5.5, no ');
    await userEvent.selectOptions(screen.getByLabelText('Reading'), 'p|olsen|mg_kg');
    expect(
      within(screen.getByRole('list', { name: 'Steps on the map' })).getAllByRole('listitem')
        .length,
    ).toBeGreaterThan(1);
    await userEvent.click(screen.getByRole('button', { name: 'As table' }));
    expect(screen.getByRole('columnheader', { name: 'Against the one before' })).toBeTruthy();
  });
});

describe('the ground on a canvas', () => {
  const model = samplingModel(outline, laid, { look: () => ({ fill: '--map-2', text: '5.1' }) });
  it('fits the field into the view, and a place goes to the screen and back', () => {
    const view = fitted(boundsOf(model), 600, 400);
    for (const p of model.points) {
      const [x, y] = toScreen(p.at, view, 600, 400);
      expect(x > 0 && x < 600 && y > 0 && y < 400).toBe(true);
      expect(toGround(x, y, view, 600, 400)[0]).toBeCloseTo(p.at[0], 6);
    }
    expect(scaleBarM(view.scale) * view.scale).toBeGreaterThan(40);
  });
  it('draws every cell in sight, its label and its reading, and none that is out of sight', () => {
    const calls: string[] = [];
    const ctx = new Proxy({} as CanvasRenderingContext2D, {
      get:
        (_, key) =>
        (...args: unknown[]) => {
          calls.push(`${String(key)} ${typeof args[0] === 'string' ? args[0] : ''}`);
        },
      set: () => true,
    });
    drawMap(ctx, model, fitted(boundsOf(model), 600, 400), 600, 400, () => '#000', 'sans-serif');
    expect(calls.filter((c) => c.startsWith('fill evenodd'))).toHaveLength(model.cells.length);
    expect(calls).toContain(`fillText ${laid.points[0]?.label}`);
    expect(calls).toContain('fillText 5.1');
    expect(calls).toContain('fillText gateway');
    calls.length = 0;
    drawMap(ctx, model, { x: 1e6, y: 1e6, scale: 1 }, 600, 400, () => '#000', 'sans-serif');
    expect(calls.filter((c) => c.startsWith('fill evenodd'))).toEqual([]);
  });
});
