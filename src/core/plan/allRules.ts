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
import { applicationRules, historyRules, mixRules } from '../organics/rules';
import { siteRules } from '../organics/site';
import { byLevel, type Rule } from '../rules/rule';
import { leafReadingRules, leafSampleRules } from '../tissue/rules';

/** What is told of a rule without the facts that fire it. */
export type RuleText = Pick<Rule<never>, 'module' | 'id' | 'level' | 'when' | 'message' | 'action'>;
/** Every judgement rule that watches a plan, a soil or a leaf, in the order of the work. */
export const ALL_RULES: readonly RuleText[] = [...sampleRules, ...readingRules, ...estimateRules, ...layerRules, ...limeRules, ...secondaryRules, ...herbageRules, ...buildRules, ...budgetRules, ...schoolsRules, ...labRules, ...applicationRules, ...mixRules, ...historyRules, ...siteRules, ...calibrationRules, ...inCropRules, ...compostRules, ...treeRules, ...passRules, ...leafSampleRules, ...leafReadingRules];

const MODULES: [string, string][] = [['ground', 'Ground'], ['budget', 'Budget'], ['organics', 'Manure and compost'], ['nitrogen', 'Passes'], ['tissue', 'Leaf']];
const cell = (text: string): string => text.replaceAll('|', '\\|').replace(/\{(\w+)\}/g, '*$1*');
/** The list of rules as a page, stops first within each part. */
export const rulesPage = (): string => `# Rules

What the program watches for, and what it says. A **stop** is named beside the agreement and blocks only its own result; a **caution** wants a look; an **info** is quiet. Words in italics are filled in. Local law, labels, certifiers and licensed people come before any of them. Written by \`npm run --silent furrow -- rules > docs/rules.md\`.
${MODULES.map(([key, title]) => `
## ${title}

| Rule | Level | When | What it says | What to do |
|---|---|---|---|---|
${ALL_RULES.filter((r) => r.module === key).toSorted(byLevel).map((r) => `| ${r.id} | ${r.level} | ${cell(r.when)} | ${cell(r.message)} | ${cell(r.action)} |`).join('\n')}
`).join('')}`;
