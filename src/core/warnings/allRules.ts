import { budgetRules, schoolsRules } from '../budget/rules';
import { buildRules } from '../ground/buildRules';
import { estimateRules } from '../ground/extractants';
import { limeRules } from '../ground/limeRules';
import { readingRules, sampleRules } from '../ground/rules';
import { herbageRules, layerRules, secondaryRules } from '../ground/secondaryRules';
import { passRules } from '../nitrogen/rules';
import { calibrationRules } from '../organics/calibration';
import { compostRules, treeRules } from '../organics/compostRules';
import { inCropRules } from '../organics/inCrop';
import { labRules } from '../organics/labRules';
import {
  aheadRules,
  applicationRules,
  historyRules,
  lateReleaseRules,
  mixRules,
} from '../organics/rules';
import { siteRules } from '../organics/site';
import { byLevel, type Rule } from '../rules/rule';
import {
  besideRules,
  calciumRules,
  correctionRules,
  diagnosisRules,
  sapRules,
} from '../tissue/adviceRules';
import { leafReadingRules, leafSampleRules } from '../tissue/rules';

/** What is told of a rule without the facts that fire it. */
export type RuleText = Pick<
  Rule<never>,
  'module' | 'id' | 'level' | 'takesOut' | 'when' | 'message' | 'action'
>;
/** Every judgement rule that watches a plan, a soil or a leaf, in the order of the work. */
export const ALL_RULES: readonly RuleText[] = [
  ...sampleRules,
  ...readingRules,
  ...estimateRules,
  ...layerRules,
  ...limeRules,
  ...secondaryRules,
  ...herbageRules,
  ...buildRules,
  ...budgetRules,
  ...schoolsRules,
  ...labRules,
  ...applicationRules,
  ...mixRules,
  ...lateReleaseRules,
  ...aheadRules,
  ...historyRules,
  ...siteRules,
  ...calibrationRules,
  ...inCropRules,
  ...compostRules,
  ...treeRules,
  ...passRules,
  ...leafSampleRules,
  ...leafReadingRules,
  ...besideRules,
  ...diagnosisRules,
  ...correctionRules,
  ...sapRules,
  ...calciumRules,
];

/**
 * Rules that the program keeps by refusing: what breaks them is never taken in, so nothing has to
 * be warned of.
 */
const REFUSED: readonly (readonly [string, string, string])[] = [
  [
    'budget Y-02',
    'yield above anything credible for the crop',
    'the goal is refused, with the crop’s highest yield',
  ],
  [
    'budget N-11, OM-01',
    'a credit that the system’s figure holds already',
    'the line stays visible and counts nothing; the credit matrix cannot be switched off',
  ],
  [
    'budget N-17',
    'more than 15 t DM/ha of green manure, or a fresh weight without dry matter',
    'refused: that looks like fresh weight',
  ],
  [
    'organics M03, M04',
    'ammonium or mineral N above total N',
    'refused in the words of the rule: nothing is reckoned with it',
  ],
  [
    'organics M10',
    'dry basis with a unit by volume',
    'refused: values by volume are always as received',
  ],
  [
    'organics N10',
    'climate factor and thermal time together',
    'refused: temperature would count twice',
  ],
  ['ground R13, R44', 'a product that brings next to nothing', 'the verdict of the claim checker'],
  ['ground R33', 'CEC summed on limy soil', 'refused where calcium saturation is asked for'],
];
const MODULES: [string, string][] = [
  ['ground', 'Ground'],
  ['budget', 'Budget'],
  ['organics', 'Manure and compost'],
  ['nitrogen', 'Passes'],
  ['tissue', 'Leaf'],
];
const cell = (text: string): string => text.replaceAll('|', '\\|').replace(/\{(\w+)\}/g, '*$1*');
/** The list of rules as a page, stops first within each part. */
export const rulesPage = (): string => `# Rules

What the program watches for, and what it says. A **stop** is named beside the agreement and blocks only its own result; what **may not go out** counts nothing in the plan as long as it is only planned; a **caution** wants a look; an **info** is quiet. Words in italics are filled in. Local law, labels, certifiers and licensed people come before any of them. Written by \`npm run --silent furrow -- rules > docs/rules.md\`.
${MODULES.map(
  ([key, title]) => `
## ${title}

| Rule | Level | When | What it says | What to do |
|---|---|---|---|---|
${ALL_RULES.filter((r) => r.module === key)
  .toSorted(byLevel)
  .map(
    (r) =>
      `| ${r.id} | ${r.level}${r.takesOut ? ', may not go out' : ''} | ${cell(r.when)} | ${cell(r.message)} | ${cell(r.action)} |`,
  )
  .join('\n')}
`,
).join('')}
## Kept by refusing

| Rule | What breaks it | What happens |
|---|---|---|
${REFUSED.map((r) => `| ${r.join(' | ')} |`).join('\n')}
`;
