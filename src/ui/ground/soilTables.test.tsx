import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, describe, expect, it } from 'vitest';
import type { SoilReading } from '@/core/facts/soilSample';
import { UnitsProvider } from '../frame/units';
import { LayerTable, type Layer } from './LayerTable';
import { ReadingTable } from './ReadingTable';

afterEach(cleanup);

describe('a row that was begun', () => {
  it('of a soil test is no reading until its figure is typed', () => {
    let now: readonly SoilReading[] = [];
    function Held() {
      const [list, setList] = useState<readonly SoilReading[]>([]);
      now = list;
      return (
        <UnitsProvider>
          <ReadingTable readings={list} readOnly={false} onChange={(c) => setList(c)} />
        </UnitsProvider>
      );
    }
    render(<Held />);
    fireEvent.click(screen.getByRole('button', { name: 'K' }));
    expect(now).toEqual([]);
    fireEvent.change(screen.getByLabelText('Unit of K'), { target: { value: 'mg_l' } });
    expect(now).toEqual([]);
    fireEvent.change(screen.getByLabelText('K test'), { target: { value: '120' } });
    expect(now).toMatchObject([{ nutrient: 'k', value: 120, unit: 'mg_l' }]);
    // What was typed stays in its box, and is a reading like any other now.
    fireEvent.change(screen.getByLabelText('K test'), { target: { value: '130' } });
    expect(now).toMatchObject([{ nutrient: 'k', value: 130 }]);
    fireEvent.click(screen.getByRole('button', { name: 'P' }));
    fireEvent.click(screen.getByRole('button', { name: 'Remove P' }));
    expect(now).toHaveLength(1);
  });
  it('of a profile is no layer until its figure is typed', () => {
    type Found = Layer & { no3nMgKg: number };
    let now: readonly Found[] = [];
    function Held() {
      const [list, setList] = useState<readonly Found[]>([]);
      now = list;
      return (
        <UnitsProvider>
          <LayerTable
            what="nitrate-N"
            word="Layer"
            figure="no3nMgKg"
            range={{ label: 'Nitrate-N', unit: 'mg/kg', min: 0, max: 200 }}
            layers={list}
            readOnly={false}
            make={(layer, no3nMgKg) => ({ ...layer, no3nMgKg })}
            onChange={(c) => setList(c)}
          />
        </UnitsProvider>
      );
    }
    render(<Held />);
    fireEvent.click(screen.getByRole('button', { name: 'Layer 0-30 cm' }));
    fireEvent.change(screen.getByLabelText('Layer 1 bulk density'), { target: { value: '1.4' } });
    expect(now).toEqual([]);
    fireEvent.change(screen.getByLabelText('Layer 1 nitrate-N'), { target: { value: '8' } });
    expect(now).toMatchObject([{ topCm: 0, bottomCm: 30, no3nMgKg: 8, bulkDensityGCm3: 1.4 }]);
    fireEvent.click(screen.getByRole('button', { name: 'Layer 30-60 cm' }));
    fireEvent.click(screen.getByRole('button', { name: 'Remove layer 2' }));
    expect(now).toHaveLength(1);
  });
});
