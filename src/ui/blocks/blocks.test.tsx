// @vitest-environment jsdom
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { PRINTED } from '@/core/book/book';
import type { OwnLeaf } from '@/core/document/leafDocument';
import { leafBlocks } from '@/core/farm/leafBlocks';
import { beetLeaf, FED } from '@/core/views/leafBeside.testkit';
import { UnitsProvider } from '../frame/units';
import { LeafBlocksDesk, type LeafBlocksDeskProps } from './LeafBlocksDesk';
import { OwnLeafLists, type OwnLeafListsProps } from './OwnLeafLists';

const refresh = vi.fn();
vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh }) }));
afterEach(() => {
  cleanup();
  refresh.mockClear();
  localStorage.clear();
});
const yields = [61, 55, 72, 48, null];
const [group] = leafBlocks(
  PRINTED,
  yields.map((harvestedTHa, k) => ({
    id: `f${k}`,
    name: `Field ${k}`,
    areaHa: 4,
    leaves: [
      beetLeaf({ ...FED, N: 4.2 + k / 10, ...(k === 3 ? { K: 1.4 } : {}) }, { id: `l${k}` }),
    ],
    seasons: [{ startDate: '2026-10-01', cropKey: 'sugar_beet', use: null, harvestedTHa }],
  })),
);
const ok = async () => ({ ok: true as const, value: undefined });
const refused = (message: string) => async () => ({
  ok: false as const,
  refusal: { code: 'missing' as const, field: 'why', message },
});
const shown = (more: Partial<LeafBlocksDeskProps> = {}) => {
  if (!group) throw new Error('No group');
  return render(
    <UnitsProvider>
      <LeafBlocksDesk
        group={group}
        readOnly={false}
        keepStandard={ok}
        keepNorms={ok}
        bringNorms={async () => ({ ok: true, value: { norms: 0, left: [] } })}
        {...more}
      />
    </UnitsProvider>,
  );
};
const tick = (name: RegExp) => userEvent.click(screen.getByRole('checkbox', { name }));

describe('blocks side by side', () => {
  it('stand by yield, and what their range calls short is marked in words too', () => {
    shown();
    const rows = within(screen.getByTestId('leaf-blocks')).getAllByRole('row').slice(2);
    expect(rows.map((r) => within(r).getByRole('rowheader').textContent)).toEqual([
      'Field 2',
      'Field 0',
      'Field 1',
      'Field 3',
      'Field 4',
    ]);
    expect(rows[3]?.textContent).toMatch(/1\.4 (deficient|low)/u);
    expect(rows[4]?.textContent).toContain('not said');
    expect(screen.queryByTestId('good-blocks')).toBeNull();
  });
  it('the best quarter is chosen at a click; figures follow what is ticked', async () => {
    shown();
    await userEvent.click(screen.getByRole('button', { name: 'Choose the best quarter by yield' }));
    const of = (nutrient: string) =>
      within(
        within(screen.getByTestId('good-blocks')).getByRole('row', {
          name: new RegExp(`^${nutrient}\\s`, 'u'),
        }),
      )
        .getAllByRole('cell')
        .map((c) => c.textContent);
    expect(of('N').slice(0, 3)).toEqual(['1', '4.4', 'of one none']);
    await tick(/Field 0/u);
    expect(of('N').slice(0, 3)).toEqual(['2', '4.3', '0.14']);
    expect(of('K')[4]).toMatch(/within chance|%/u);
    await tick(/Field 0/u);
    expect(of('N')[0]).toBe('1');
  });
  it('a standard wants its reason; what the server says stands below, and what was ticked stays', async () => {
    const keepStandard = vi.fn(refused('Why are these the good blocks? 3 letters or more.'));
    shown({ keepStandard });
    await tick(/Field 2/u);
    await tick(/Field 0/u);
    await userEvent.type(screen.getByLabelText('Why these are the good ones'), 'x');
    await userEvent.click(
      screen.getByRole('button', { name: 'Keep these 2 as the farm’s own provisional standard' }),
    );
    expect(keepStandard).toHaveBeenCalledWith({
      group: group?.key,
      leafIds: ['l2', 'l0'],
      why: 'x',
    });
    expect((await screen.findByRole('alert')).textContent).toContain('Why are these');
    expect(refresh).not.toHaveBeenCalled();
    expect(screen.getByRole('checkbox', { name: /Field 2/u })).toHaveProperty('checked', true);
    expect(
      screen.getByRole('button', { name: 'Keep as norms of the balance' }).hasAttribute('disabled'),
    ).toBe(true);
  });
  it('rows of a table of norms that stay out are named', async () => {
    const bringNorms = vi.fn(async () => ({
      ok: true as const,
      value: { norms: 1, left: [{ row: 3, text: 'K/Ca', reason: 'its variation is missing' }] },
    }));
    shown({ bringNorms });
    await userEvent.upload(
      screen.getByLabelText(/Norms of the balance/u),
      new File(['ratio,mean,cv'], 'norms.csv', { type: 'text/csv' }),
    );
    expect((await screen.findByRole('status')).textContent).toBe('1 norm is in, 1 row stayed out.');
    expect(screen.getByLabelText('Rows that stayed out').textContent).toContain('Line 3, K/Ca');
  });
  it('a reader ticks nothing', () => {
    shown({ readOnly: true });
    expect(screen.queryByRole('checkbox')).toBeNull();
    expect(screen.queryByRole('button')).toBeNull();
  });
});

describe('what the farm has of its own', () => {
  const own: OwnLeaf = {
    standards: [
      {
        id: 's1',
        cropKey: 'sugar_beet',
        setId: null,
        part: 'blade',
        bbchFrom: 36,
        bbchTo: 39,
        blocks: [{ field: 'Field 2', date: '2027-06-24' }],
        figures: [{ nutrient: 'N', n: 1, mean: 4.4, sd: null, lower: null, upper: null }],
        why: 'best sugar',
        by: 'Ines',
        on: '2027-07-01',
      },
    ],
    norms: [
      {
        normSet: 'trial',
        cropKey: 'sugar_beet',
        setId: null,
        part: 'blade',
        bbchFrom: 36,
        bbchTo: 39,
        ratio: 'N/P',
        normMean: 11,
        cvPct: 15,
        nSamples: null,
        source: 'a journal',
        confidence: 'low',
        by: 'Ines',
        on: '2027-07-01',
      },
    ],
    similar: [],
  };
  const lists = (more: Partial<OwnLeafListsProps> = {}) =>
    render(
      <OwnLeafLists
        farmId="f"
        own={own}
        cropNames={{ sugar_beet: 'Sugar beet (roots)' }}
        withRanges={['lettuce', 'cabbage']}
        without={[{ key: 'spinach', name: 'Spinach' }]}
        readOnly={false}
        dropStandard={ok}
        dropNorms={ok}
        nameSimilar={ok}
        {...more}
      />,
    );
  it('says how many, mean, why, who and when, and is removed by name', async () => {
    const [dropStandard, dropNorms] = [vi.fn(ok), vi.fn(ok)];
    lists({ dropStandard, dropNorms });
    expect(screen.getByTestId('own-standards').textContent).toMatch(
      /Sugar beet \(roots\), blade, BBCH 36-39provisional1N 4\.4 %best sugar Ines, 1 Jul 2027; from Field 2 24 Jun 2027/u,
    );
    expect(screen.getByTestId('own-norms').textContent).toContain('N/P 11, 15 %');
    await userEvent.click(
      screen.getByRole('button', { name: /^Remove the standard of Sugar beet/u }),
    );
    await userEvent.click(screen.getByRole('button', { name: 'Remove the norms trial' }));
    expect(dropStandard).toHaveBeenCalledWith('s1');
    expect(dropNorms).toHaveBeenCalledWith('trial');
    expect(refresh).toHaveBeenCalledTimes(2);
  });
  it('a similar crop is chosen, and taken back', async () => {
    const nameSimilar = vi.fn(ok);
    lists({ nameSimilar });
    await userEvent.selectOptions(screen.getByLabelText('Spinach beside'), 'lettuce');
    expect(nameSimilar).toHaveBeenCalledWith({ cropKey: 'spinach', like: 'lettuce' });
  });
  it('a reader sees it all and changes none', () => {
    lists({ readOnly: true });
    expect(screen.queryByRole('button')).toBeNull();
    expect(screen.getByLabelText('Spinach beside').hasAttribute('disabled')).toBe(true);
  });
});
