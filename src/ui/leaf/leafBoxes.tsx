'use client';

import type { LeafSample } from '@/core/facts/leafSample';
import { ChoiceBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';

// Boxes of a leaf sample, the same where it is taken and where its values are typed.

const ROLES = [
  { value: 'survey', label: 'the whole block' },
  { value: 'affected', label: 'plants that look ill' },
  { value: 'unaffected', label: 'healthy plants beside them' },
];
const WASHED = [
  { value: 'no', label: 'no' },
  { value: 'distilled', label: 'in distilled water' },
  { value: 'tap', label: 'in tap water' },
];
interface Box<T> {
  value: T;
  onValue: (v: T) => void;
  disabled?: boolean;
}
export const RoleBox = ({ value, onValue, disabled }: Box<LeafSample['role']>) => (
  <ChoiceBox
    label="Of"
    disabled={disabled}
    value={value}
    options={ROLES}
    onValue={(v) => v && onValue(v as LeafSample['role'])}
  />
);
export const WashedBox = ({ value, onValue, disabled }: Box<LeafSample['washed']>) => (
  <ChoiceBox
    label="Washed"
    disabled={disabled}
    value={value}
    options={WASHED}
    onValue={(v) => v && onValue(v as LeafSample['washed'])}
  />
);
export const BiomassBox = ({ value, onValue }: Box<number | null>) => (
  <FigureBox
    label="Biomass, dry"
    optional
    value={value}
    range={{ label: 'Biomass, dry', unit: 't/ha', min: 0.05, max: 40 }}
    onValue={onValue}
  />
);
export const TenPlantsBox = ({ value, onValue }: Box<number | null>) => (
  <FigureBox
    label="Ten plants, dry"
    optional
    value={value}
    range={{ label: 'Ten plants', unit: 'g', min: 0, max: 100_000, above: true }}
    onValue={onValue}
  />
);
