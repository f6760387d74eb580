import type { Book } from '../../book/book';
import { moistureClasses } from '../../book/budgetTables';
import { crops } from '../../book/crops';
import { fertilisers } from '../../book/fertilisers';
import { greenManures, residuePlacements } from '../../book/greenManures';
import { leafStandards } from '../../book/leafStandards';
import { legumes, modifierLevels } from '../../book/legumes';
import { claimCompounds } from '../../book/limes';
import { ammoniaLevels, materials, spreadingMethods } from '../../book/organicMaterials';
import { incropCropGroups } from '../../book/organicTables';
import { extractantName, soilTestLevels } from '../../book/soilTests';
import type { DICTIONARY } from './dictionary';

export interface Choice {
  value: string;
  label: string;
}
const inWords = (key: string): Choice => ({ value: key, label: key.replaceAll('_', ' ') });
const once = (keys: readonly string[]): Choice[] => [...new Set(keys)].map(inWords);
const products = (book: Book): Choice[] =>
  fertilisers(book).map((f) => ({ value: f.productId, label: f.name }));

/** Keys that a person chooses from, with the names that the book has for them. */
const KEYS: { readonly [K in keyof typeof DICTIONARY]?: (book: Book) => Choice[] } = {
  crop_key: (b) => crops(b).map((c) => ({ value: c.key, label: c.name })),
  product_id: products,
  compound_id: (b) =>
    fertilisers(b)
      .filter((f) => [f.nTotalPct, f.pPct, f.kPct].filter((x) => x > 0).length > 1)
      .map((f) => ({ value: f.productId, label: f.name })),
  straight_n_product_id: products,
  straight_p_product_id: products,
  straight_k_product_id: products,
  material_key: (b) => materials(b).map((m) => ({ value: m.key, label: m.name })),
  mineralisation_class: (b) => once(materials(b).map((m) => m.mineralisationClass)),
  spreading_method: () => spreadingMethods().map((m) => ({ value: m.methodKey, label: m.name })),
  covering_kind: () => once(ammoniaLevels('r_event')),
  soil_state: () => once(ammoniaLevels('m_soil')),
  ground_cover: () => once(ammoniaLevels('m_cover')),
  legume_key: () => [
    ...new Map(legumes().map((l) => [l.legumeKey, { value: l.legumeKey, label: l.name }])).values(),
  ],
  stand_class: () => once(['good', 'fair', 'poor']),
  regrowth: () => once(modifierLevels('regrowth')),
  legume_texture: () => once(modifierLevels('texture')),
  kill_timing: () => once(modifierLevels('kill_timing')),
  tillage: () => once(modifierLevels('tillage')),
  climate_class: () => once(modifierLevels('climate')),
  stand_age: () => once(modifierLevels('stand_age')),
  species_key: () => greenManures().map((g) => ({ value: g.speciesKey, label: g.name })),
  residue_placement: () => once(residuePlacements()),
  moisture_class: () => once(moistureClasses()),
  soil_nutrient: () => once(soilTestLevels().map((r) => r.nutrient)),
  extractant: () =>
    once(soilTestLevels().map((r) => r.extractant)).map(({ value }) => ({
      value,
      label: extractantName(value),
    })),
  soil_test_unit: () => [
    { value: 'mg_kg', label: 'mg/kg' },
    { value: 'mg_l', label: 'mg/L' },
    { value: 'lb_ac', label: 'lb/ac' },
    { value: 'kg_ha', label: 'kg/ha in 0-60 cm' },
  ],
  claim_compound: () => claimCompounds().map((c) => ({ value: c.key, label: c.name })),
  in_crop_group: () => once(incropCropGroups()),
  range_set_id: (b) => once(leafStandards(b).ranges.map((r) => r.setId)),
  range_set_before_id: (b) => once(leafStandards(b).ranges.map((r) => r.setId)),
  range_set_after_id: (b) => once(leafStandards(b).ranges.map((r) => r.setId)),
  leaf_crop: (b) => once(leafStandards(b).ranges.map((r) => r.crop)),
  plant_part: (b) => once(leafStandards(b).ranges.map((r) => r.part)),
};

/** What a key may be, or null where only the method knows. */
export const choicesOf = (book: Book, name: keyof typeof DICTIONARY): Choice[] | null =>
  KEYS[name]?.(book) ?? null;
