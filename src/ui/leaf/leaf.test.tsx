// @vitest-environment jsdom
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { PRINTED } from '@/core/book/book';
import { leafStandards } from '@/core/book/leafStandards';
import type { Plan } from '@/core/document/document';
import { beetLeaf, beetsWith, FED, lookAt, seasonOf } from '@/core/views/leafBeside.testkit';
import { desk, showPart } from '../workspace/testDesk';
import { ActionsPart } from './ActionsPart';
import { BesideParts, YearsPart } from './BesideParts';
import { FeedPart } from './FeedPart';
import { FruitDropPart } from './FruitDropPart';
import { FruitSprays } from './FruitSprays';
import { OwnBesideParts } from './OwnBesideParts';
import { drawnInWords, PlantDrawing } from './PlantDrawing';
import { SapPart } from './SapPart';
import { SymptomsPart } from './SymptomsPart';
import { TakeSample } from './TakeSample';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));
afterEach(() => {
  cleanup();
  localStorage.clear();
});
const type = async (label: string, value: string) => {
  await userEvent.clear(screen.getByLabelText(label));
  await userEvent.type(screen.getByLabelText(label), value);
  await userEvent.tab();
};
const besideOf = (plan: Plan) => lookAt(plan).beside;

describe('drawings of plants', () => {
  it('every protocol has one, with its own words', () => {
    for (const p of leafStandards(PRINTED).protocols) {
      render(<PlantDrawing form={p.plantForm} organ={p.organ} />);
      expect(screen.getByRole('img', { name: drawnInWords(p.plantForm, p.organ) })).toBeTruthy();
      cleanup();
    }
  });
});

describe('a protocol that is walked', () => {
  it('starts, counts, goes back and is left without a trace', async () => {
    showPart(<TakeSample />, beetsWith());
    await userEvent.click(
      screen.getAllByRole('button', { name: 'Take this leaf' })[0] as HTMLElement,
    );
    const walk = screen.getByTestId('walk');
    const done = () => userEvent.click(within(walk).getByRole('button', { name: 'Done' }));
    await done();
    await done();
    await userEvent.click(within(walk).getByRole('button', { name: '5 leaves' }));
    await userEvent.click(within(walk).getByRole('button', { name: '5 leaves' }));
    expect(screen.getByTestId('leaf-count').textContent).toMatch(/^10 of/u);
    await userEvent.click(within(walk).getByRole('button', { name: '5' }));
    expect(screen.getByTestId('leaf-count').textContent).toMatch(/^5 of/u);
    for (let k = 0; k < 3; k++) await done();
    // Without the stage that was seen nothing is kept.
    expect(
      within(walk).getByRole('button', { name: 'Keep the sample' }).hasAttribute('disabled'),
    ).toBe(true);
    expect(walk.textContent).toContain('Only 5; at least');
    for (let k = 0; k < 5; k++)
      await userEvent.click(within(walk).getByRole('button', { name: 'Back' }));
    await userEvent.click(within(walk).getByRole('button', { name: 'Leave' }));
    expect(screen.queryByTestId('walk')).toBeNull();
    expect(desk.plan.leaves).toEqual([]);
  });
  it('a crop without a standard is told so, a reader takes none', () => {
    showPart(<TakeSample />, seasonOf('terrace-short 2026'));
    expect(screen.getByText(/Choose a crop first|no standard/u)).toBeTruthy();
    cleanup();
    showPart(<TakeSample />, beetsWith(), true);
    expect(screen.queryByRole('button', { name: 'Take this leaf' })).toBeNull();
  });
});

describe('beside the classes', () => {
  it('a pair is drawn with its difference in words', () => {
    const plan = beetsWith(
      beetLeaf({ ...FED, Mn: 12 }, { role: 'affected' }),
      beetLeaf(FED, { role: 'unaffected' }),
    );
    showPart(<BesideParts beside={besideOf(plan)} />, plan);
    const pair = screen.getByTestId('leaf-pair');
    expect(pair.textContent).toContain('Mn is short in the affected plants');
    expect(within(pair).getByRole('img', { name: 'Mn: -80 %, clear' })).toBeTruthy();
    expect(pair.textContent).toContain('not weighed');
  });
  it('a condition beside the soil is answered once', async () => {
    const plan = beetsWith(beetLeaf({ ...FED, Mg: 0.15 }));
    showPart((p) => <BesideParts beside={besideOf(p)} />, plan);
    const soil = screen.queryByTestId('soil-beside-leaf');
    const yes = soil ? within(soil).queryAllByRole('button', { name: 'Yes' })[0] : undefined;
    if (!yes) return expect(soil === null || soil.textContent !== '').toBe(true);
    await userEvent.click(yes);
    expect(desk.plan.season.soilLeafAnswers).toHaveLength(1);
  });
  it('without two years there is no line', () => {
    showPart(<YearsPart list={[]} />, beetsWith());
    expect(screen.getByText(/four make\s+a trend/u)).toBeTruthy();
  });
});

describe('what ails it', () => {
  it('answers are kept one by one, and taking one back leaves it open again', async () => {
    showPart((p) => <SymptomsPart beside={besideOf(p)} />, beetsWith());
    expect(screen.getByText(/three answers or more/u)).toBeTruthy();
    const old = screen.getByRole('group', { name: /oldest \(lowest\) leaves/u });
    await userEvent.click(within(old).getByLabelText('no'));
    expect(desk.plan.season.symptoms?.answers).toEqual([{ id: 'f_old_first', yes: false }]);
    expect(screen.getByTestId('symptom-verdict').textContent).toContain('1 answered');
    await userEvent.click(within(old).getByLabelText('not looked'));
    expect(desk.plan.season.symptoms?.answers).toEqual([]);
  });
  it('where it began is picked on the drawing, and the question says so too', async () => {
    showPart((p) => <SymptomsPart beside={besideOf(p)} />, beetsWith());
    const pick = screen.getByRole('button', { name: 'the youngest leaves' });
    await userEvent.click(pick);
    expect(pick.getAttribute('aria-pressed')).toBe('true');
    expect(desk.plan.season.symptoms?.answers).toEqual([{ id: 'f_young_first', yes: true }]);
    const question = screen.getByRole('group', { name: /youngest leaves or the growing point/u });
    expect(within(question).getByLabelText<HTMLInputElement>('yes').checked).toBe(true);
    await userEvent.click(pick);
    expect(desk.plan.season.symptoms?.answers).toEqual([]);
  });
  it('what the plan knows is ticked and not asked', () => {
    showPart((p) => <SymptomsPart beside={besideOf(p)} />, beetsWith());
    const manure = screen.getByLabelText<HTMLInputElement>(
      /Manure or compost in the last 3 years/u,
    );
    expect([manure.checked, manure.disabled]).toEqual([true, true]);
  });
});

describe('what is done', () => {
  it('a spray that may go out becomes a pass on the furrow', async () => {
    const plan = beetsWith(beetLeaf({ ...FED, B: 14 }));
    const before = plan.passes.length;
    showPart((p) => <ActionsPart beside={besideOf(p)} />, plan);
    const boron = screen.getByTestId('action-B');
    expect(within(boron).getAllByRole('listitem').length).toBeGreaterThanOrEqual(6);
    await userEvent.click(within(boron).getByRole('button', { name: /^Plan the spray/u }));
    expect(desk.plan.passes.length).toBeGreaterThan(before);
    expect(desk.plan.passes.at(-1)).toMatchObject({
      placementId: 'foliar_spray',
      productId: 'disodium_octaborate_21',
    });
  });
  it('what goes to the soil next season is kept once a nutrient, and can be taken away', async () => {
    showPart((p) => <ActionsPart beside={besideOf(p)} />, beetsWith(beetLeaf({ ...FED, B: 14 })));
    const add = () =>
      userEvent.click(
        within(screen.getByTestId('action-B')).getByRole('button', { name: /next season/u }),
      );
    await add();
    await add();
    expect(desk.plan.season.nextSeason).toHaveLength(1);
    await userEvent.click(
      within(screen.getByTestId('next-season')).getByRole('button', { name: 'remove' }),
    );
    expect(desk.plan.season.nextSeason).toEqual([]);
  });
  it('a fed crop: nothing, and why', () => {
    showPart((p) => <ActionsPart beside={besideOf(p)} />, beetsWith(beetLeaf(FED)));
    expect(screen.getByTestId('no-action').textContent).toContain(
      'No nutrient lies below its range',
    );
  });
  it('calcium on the fruit waits for the day and the water', async () => {
    const plan = seasonOf('upper-strip 2026');
    showPart((p) => <FruitSprays beside={besideOf(p)} />, plan);
    await userEvent.click(screen.getByRole('button', { name: 'Plan the sprays' }));
    expect(screen.getByRole('alert').textContent).toContain('first spray is missing');
    await type('Water of a spray', '500');
    expect(desk.plan.season.fruitBlock?.sprayVolumeLHa).toBe(500);
    expect(desk.plan.passes).toEqual(plan.passes);
  });
  it('sap is read by what the meter shows; one reading is weather', async () => {
    showPart(<SapPart />, seasonOf('upper-strip 2026'));
    const add = screen.getByRole('button', { name: 'Add the reading' });
    expect(add.hasAttribute('disabled')).toBe(true);
    await type('Stage then (BBCH)', '62');
    await userEvent.selectOptions(screen.getByLabelText('The meter shows'), 'NO3');
    await type('Meter reading', '1800');
    await userEvent.click(add);
    expect(screen.getByTestId('sap').textContent).toContain('407 NO3-N');
    expect(screen.getByTestId('sap').textContent).toContain('One reading is weather');
    expect(desk.plan.season.sap).toMatchObject([{ meter: 'NO3', readingMgL: 1800, bbch: 62 }]);
  });
});

describe('what the farm has of its own, beside a leaf', () => {
  const whose = { by: 'Ines', on: '2027-06-01' };
  const place = {
    cropKey: 'sugar_beet',
    setId: besideOf(beetsWith(beetLeaf(FED))).leaf?.assessment.standard?.setId ?? null,
    part: 'blade',
    bbchFrom: 36,
    bbchTo: 39,
  };
  const plan = (): Plan => {
    const beets = beetsWith(beetLeaf(FED));
    return {
      ...beets,
      farm: {
        ...beets.farm,
        ownLeaf: {
          standards: [
            {
              id: 's1',
              ...place,
              blocks: [{ field: 'Terrace Long', date: '2026-06-20' }],
              figures: [{ nutrient: 'N', n: 12, mean: 5.6, sd: 0.3, lower: null, upper: null }],
              why: 'best sugar',
              ...whose,
            },
          ],
          norms: [
            {
              normSet: 'trial',
              ...place,
              ratio: 'N/K',
              normMean: 1.35,
              cvPct: 15,
              nSamples: 200,
              source: 'a journal',
              confidence: 'medium',
              ...whose,
            },
          ],
          similar: [],
        },
      },
    };
  };
  it('good blocks and balance are told with whose they are, and class nothing', () => {
    const beets = plan();
    showPart(<OwnBesideParts beside={besideOf(beets)} />, beets);
    const own = screen.getByTestId('own-beside');
    expect(own.textContent).toContain('provisional');
    expect(within(own).getByRole('row', { name: /^N\s/u }).textContent).toMatch(
      /4\.6 %5\.6 ± 0\.3of 12more than two spreads below them/u,
    );
    expect(own.textContent).toContain('best sugar (Ines, 1 Jun 2027): Terrace Long');
    expect(screen.getByTestId('balance-beside').textContent).toContain('a journal, medium');
    expect(
      screen.getByRole('link', { name: 'Leaves side by side' }).getAttribute('href'),
    ).toContain(encodeURIComponent(beets.farm.name));
  });
  it('a crop that somebody called similar says that it is another', () => {
    const leaf = beetLeaf({ N: 2 }, { cropKey: 'spinach', part: 'wrapper_leaf', bbch: 45 });
    const beets = beetsWith(leaf);
    const spinach: Plan = {
      ...beets,
      season: { ...beets.season, cropKey: 'spinach', use: null },
      farm: {
        ...beets.farm,
        ownLeaf: {
          standards: [],
          norms: [],
          similar: [{ cropKey: 'spinach', like: 'lettuce', ...whose }],
        },
      },
    };
    showPart(<OwnBesideParts beside={besideOf(spinach)} />, spinach);
    expect(screen.getByTestId('similar-beside').textContent).toMatch(/below it.*of another crop/u);
  });
});

describe('a feed against the leaf', () => {
  it('is told per 100 of N once a product is chosen, and says what it holds none of', async () => {
    const beets = beetsWith(beetLeaf(FED));
    showPart(<FeedPart beside={besideOf(beets)} />, beets);
    const feed = screen.getByTestId('feed-ratio');
    expect(within(feed).queryByRole('table')).toBeNull();
    await userEvent.click(within(feed).getByLabelText('Product'));
    await userEvent.type(screen.getByLabelText('Search product'), '15-15-15');
    await userEvent.keyboard('{Enter}');
    expect(feed.textContent).toMatch(/the product 100 : 44 : 83 : 0 : 0/u);
    expect(within(feed).getByRole('row', { name: /^Ca/u }).textContent).toContain('it holds none');
  });
  it('is not there without a leaf', () => {
    showPart(<FeedPart beside={besideOf(beetsWith())} />, beetsWith());
    expect(screen.queryByTestId('feed-ratio')).toBeNull();
  });
});

describe('fruit that drops', () => {
  it('nothing counts before it was said, and an answer can be taken back', async () => {
    const pears = seasonOf('pear-wall 2026');
    showPart((plan) => <FruitDropPart beside={besideOf(plan)} />, pears);
    expect(desk.plan.season.fruitDrop).toBeNull();
    await type('Years in which it dropped', '3');
    await userEvent.selectOptions(screen.getByLabelText('Dry when it fell'), 'yes');
    expect(desk.plan.season.fruitDrop).toEqual({ years: 3, drought: true, waterlogged: null });
    expect(screen.getByTestId('fruit-drop').textContent).toContain('see to the water first');
    await userEvent.selectOptions(screen.getByLabelText('Dry when it fell'), '');
    expect(desk.plan.season.fruitDrop?.drought).toBeNull();
    expect(screen.getByTestId('fruit-drop').textContent).toContain('are asked once');
  });
  it('is not asked of beets', () => {
    showPart((plan) => <FruitDropPart beside={besideOf(plan)} />, beetsWith());
    expect(screen.queryByTestId('fruit-drop')).toBeNull();
  });
});

describe('a card for the pocket', () => {
  it('says leaf, count, washing and the usual mistake, with lines to write on', () => {
    showPart(<TakeSample />, beetsWith());
    const [card] = screen.getAllByTestId('pocket-card');
    expect(card?.textContent).toMatch(/Low Fleet: sugar beet/u);
    expect(card?.textContent).toMatch(/at least \d+.*The usual mistake: .*Day ____/u);
  });
});
