import type { Book } from '../book/book';
import { orchardPotassium } from '../tissue/orchardPotassium';
import { leafStandards } from '../book/leafStandards';
import { classConfidence, classifyLeaf, mostLimiting } from '../tissue/classify';
import { limitsOf, rowOfSet, type LeafLimits } from '../tissue/limits';
import { contamination, decimalCheck, lessThan, toCoreUnit, unitCheck } from '../tissue/reading';
import { findStandard, interpolateRange } from '../tissue/standard';
import { list, may, mayList, need, rowsOf } from './fields';
import { calculation, type Method } from './method';

/** The open edge names limits by the chapter's letters. */
const letters = (l: LeafLimits) => ({ D: l.d, L: l.l, SL: l.sl, SH: l.sh, Hh: l.hh, T: l.t });
const inSet = (book: Book, setId: string, nutrient: string) =>
  limitsOf(rowOfSet(leafStandards(book).ranges, setId, nutrient));

const reported = {
  range_set_id: need('set_id'),
  nutrient: need(),
  leaf_value: need('value'),
  leaf_unit: need('unit'),
};

export const tissueMethods: readonly Method[] = [
  calculation({
    id: 'tissue.to_core_unit',
    title: 'Leaf figure in its range’s unit',
    group: 'Leaf reading',
    chapter: '5, F4.1',
    takes: {
      nutrient: need(),
      leaf_value: need('value'),
      leaf_unit: need('unit'),
      leaf_form: may('form'),
    },
    gives: { leaf_value_core: need('value'), leaf_unit_core: need('unit') },
    run: toCoreUnit,
  }),
  calculation({
    id: 'tissue.unit_check',
    title: 'Does this look like another unit',
    group: 'Leaf reading',
    chapter: '5, F4.2',
    takes: reported,
    gives: {
      leaf_value_core: need('value_core'),
      unit_verdict: need('result'),
      suggested_unit: may('suggest'),
      suggested_value: may('suggest_value'),
    },
    run: (i, book) => unitCheck({ ...i, limits: inSet(book, i.setId, i.nutrient) }),
  }),
  calculation({
    id: 'tissue.decimal_check',
    title: 'A slipped decimal point',
    group: 'Leaf reading',
    chapter: '5, F4.2b',
    takes: reported,
    gives: { suggested_value: may('suggested') },
    run: (i, book) =>
      decimalCheck({
        nutrient: i.nutrient,
        value: toCoreUnit(i).value,
        limits: inSet(book, i.setId, i.nutrient),
      }),
  }),
  calculation({
    id: 'tissue.less_than',
    title: 'A result under the method’s limit',
    group: 'Leaf reading',
    chapter: '5, F4.3',
    takes: {
      range_set_id: need('set_id'),
      nutrient: need(),
      reported_text: need('reported'),
      leaf_unit: need('unit'),
    },
    gives: { detection_limit_core: need('bound_core'), leaf_class: need('cls') },
    run: (i, book) => lessThan({ ...i, limits: inSet(book, i.setId, i.nutrient) }),
  }),
  calculation({
    id: 'tissue.contamination',
    title: 'Dust, spray residue, tap water',
    group: 'Leaf reading',
    chapter: '5, F3.1',
    gives: {
      contamination_flags: rowsOf(
        { contamination_sign: need(), level: need(), contamination_nutrients: need() },
        'flags',
      ),
    },
    takes: {
      range_set_id: need('set_id'),
      leaf_al: may('Al'),
      leaf_ti: may('Ti'),
      leaf_fe: may('Fe'),
      leaf_ca: may('Ca'),
      leaf_mn: may('Mn'),
      leaf_zn: may('Zn'),
      leaf_cu: may('Cu'),
      leaves_washed: may('washed'),
      sprayed_elements: mayList('spray_elements'),
    },
    run: (i, book) => {
      const { ranges } = leafStandards(book);
      const upper = Object.fromEntries(
        (['Fe', 'Mn', 'Zn', 'Cu'] as const).flatMap((x) => {
          const row = ranges.find((r) => r.setId === i.setId && r.nutrient === x);
          return row ? [[x, row.sufficientHigh]] : [];
        }),
      );
      return {
        flags: contamination({ ...i, upper }).map(
          ([contaminationSign, level, contaminationNutrients]) => ({
            contaminationSign,
            level,
            contaminationNutrients,
          }),
        ),
      };
    },
  }),
  calculation({
    id: 'tissue.find_standard',
    title: 'The standard for a crop, part and stage',
    group: 'Leaf class',
    chapter: '5, F6.0',
    takes: {
      leaf_crop: need('crop'),
      plant_part: need('part'),
      growth_stage_bbch: need('bbch'),
      nutrient: need(),
      production_system: may('system'),
      leaf_value_core: may('value'),
    },
    gives: {
      range_match: need('how'),
      range_set_id: need('set_id'),
      range_limits: need('limits'),
      confidence: need(),
      source: need(),
      leaf_class: may('cls'),
    },
    run: (i, book) => {
      const s = findStandard(leafStandards(book).ranges, i);
      return {
        how: s.how,
        setId: s.setId,
        limits: letters(s.limits),
        confidence: s.confidence,
        source: s.row.source,
        ...(i.value == null ? {} : { cls: classifyLeaf(i.value, s.limits).cls }),
      };
    },
  }),
  calculation({
    id: 'tissue.interpolate_range',
    title: 'Limits between two stages',
    group: 'Leaf class',
    chapter: '5, F6.1',
    takes: {
      range_set_before_id: need('set_a'),
      range_set_after_id: need('set_b'),
      nutrient: need(),
      growth_stage_bbch: need('bbch'),
    },
    gives: { range_limits: need('limits'), interpolation_frac: need('f'), confidence: need() },
    run: (i, book) => {
      const { ranges } = leafStandards(book);
      const r = interpolateRange(
        rowOfSet(ranges, i.setA, i.nutrient),
        rowOfSet(ranges, i.setB, i.nutrient),
        i.bbch,
      );
      return { limits: letters(r.limits), f: r.f, confidence: r.confidence };
    },
  }),
  calculation({
    id: 'tissue.classify',
    title: 'Class of a leaf value',
    group: 'Leaf class',
    chapter: '5, F5.1',
    takes: { ...reported, leaf_unit: may('unit') },
    gives: {
      leaf_class: need('cls'),
      leaf_score: may('score'),
      deviation_from_optimum_pct: may('dop_pct'),
    },
    run: (i, book) =>
      classifyLeaf(
        i.unit ? toCoreUnit({ nutrient: i.nutrient, value: i.value, unit: i.unit }).value : i.value,
        inSet(book, i.setId, i.nutrient),
      ),
  }),
  calculation({
    id: 'tissue.class_confidence',
    title: 'How sure the class is',
    group: 'Leaf class',
    chapter: '5, F5.5',
    takes: {
      leaf_value: need('value'),
      class_limit: need('limit'),
      combined_cv_pct: need(),
      sample_count: may('n_samples'),
    },
    gives: {
      z_score: need('z'),
      probability_below_limit: need('p_below_limit'),
      certainty_words: need('wording'),
    },
    run: classConfidence,
  }),
  calculation({
    id: 'tissue.most_limiting',
    title: 'Nutrients in order of shortage',
    group: 'Leaf class',
    chapter: '5, F5.6',
    takes: { range_set_id: need('set_id'), leaf_values: need('values') },
    gives: {
      nutrients_in_order: list('order'),
      all_nutrients_in_order: list('full_order'),
      leaf_scores: need('scores'),
      leaf_classes: need('classes'),
      short_nutrients: list('short'),
      co_limiting_nutrients: list('co_limiting'),
    },
    run: (i, book) => mostLimiting({ ...i, ranges: leafStandards(book).ranges }),
  }),
  calculation({
    id: 'tissue.orchard_potassium',
    title: 'K of a fruit crop by its leaf',
    group: 'Leaf class',
    chapter: '5, F15',
    takes: {
      leaf_crop: need('crop'),
      yield_t_ha: need(),
      leaf_k_pct: need(),
      k_credits_kg_ha: may('credits_kg_k_ha'),
      crop_load_ratio: may('load_ratio'),
      leaf_k_load_correction_pct: may('c'),
      is_soil_k_high: may('soil_k_high'),
      k_efficiency_frac: may('efficiency'),
    },
    gives: {
      leaf_k_adjusted_pct: need('leaf_k_adj'),
      leaf_k_middle_pct: need('mid'),
      removal_kg_ha: need(),
      k_removal_factor: need('factor'),
      k_rate_kg_ha: need('rate_kg_ha'),
      is_capped: need('capped'),
      skip_years: need('skip_years_planned'),
    },
    run: orchardPotassium,
  }),
];
