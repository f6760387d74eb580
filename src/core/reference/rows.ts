import { z } from 'zod';

// Shapes of the reference tables. Every row carries source and confidence; the test beside this file checks all of them.
const text = z.string();
const maybeText = z.string().nullable();
const n = z.number();
const maybe = z.number().nullable();
const fraction = z.number().min(0).max(1);
const pct = z.number().min(0).max(100);
const confidence = z.enum(['low', 'medium', 'high']);
const sourced = { source: z.string().min(1), confidence };

export const cropRow = z.object({
  key: text, name: text, group: text, product: text, marketMoisturePct: pct, usYieldUnit: text, kgPerUsUnit: n, yieldTypicalTHa: n, yieldMaxTHa: n,
  removalNKgT: n, removalPKgT: n, removalKKgT: n, removalSKgT: n, removalCaKgT: n, removalMgKgT: n,
  residueNKgTDm: n, residuePKgTDm: n, residueKKgTDm: n, residueSKgTDm: n, residueDmTPerT: maybe,
  uptakeNKgT: n, uptakeSKgT: n,
  nFixing: z.enum(['none', 'grain_legume', 'forage_legume', 'weak_fixer', 'mixed_ley']), ndfaDefaultPct: pct,
  mycorrhizal: z.enum(['am', 'am_strong', 'none', 'weak', 'ericoid']), pEfficiency: z.enum(['low', 'medium', 'high']),
  nReqKgT: n, nBaseKgHa: n, nCapKgHa: n, rootDepthCm: n, sDemand: z.enum(['low', 'medium', 'high']), lateNSensitivity: n, lateNHarm: text,
  uptakeCurveKey: text, phGroup: z.enum(['sensitive', 'moderate', 'tolerant', 'acid_loving']), kDemand: z.enum(['high', 'normal']), ...sourced,
});
export const uptakeCurveRow = z.object({ curveKey: text, seasonFrac: fraction, thermalFrac: fraction, bbch: text, nUptakeFrac: fraction, ...sourced });
export const lateNRow = z.object({ cropKey: text, runDownBbch: n, daysBeforeHarvestMax: n, harm: text, action: text, ...sourced });
export const creditMatrixRow = z.object({ line: text, yieldGoal: text, economicOptimum: text, indexCeiling: text, nitrateTest: text, note: text, ...sourced });
export const pkReplacementRow = z.object({ soilClass: text, pFactor: n, kFactor: n, pBuildMaxKgHa: n, kBuildMaxKgHa: n, meaning: text, ...sourced });
export const limitingYieldRow = z.object({ nutrient: z.enum(['P', 'K', 'S', 'Mg']), responseGroup: text, ryVeryLow: fraction, ryLow: fraction, ryMedium: fraction, ryHigh: fraction, ryVeryHigh: fraction, note: maybeText, ...sourced });
export const phYieldRow = z.object({ phGroup: text, phWater: n, relativeYield: fraction, ...sourced });
export const omRow = z.object({ parameter: text, level: text, value: n, min: n, max: n, unit: text, note: maybeText, ...sourced });
export const crosswalkRow = z.object({ cropKey: text, seasonCropId: maybeText, seasonMatch: z.enum(['direct', 'proxy', 'none']), tissueCrop: maybeText, targetPhGroup: maybeText, criticalLevelGroup: maybeText, seedRowCropId: maybeText });

export const legumeRow = z.object({ legumeKey: text, name: text, useType: z.enum(['perennial_hay', 'ley', 'biennial_green_manure', 'annual_green_manure', 'companion', 'grain_legume']), standClass: z.enum(['good', 'fair', 'poor', 'any']), standDefinition: text, creditRootsKgHa: n, creditTopsKgHa: n, creditYear1KgHa: n, creditYear2KgHa: n, creditYear3KgHa: n, topsAssumed: text, ...sourced });
export const legumeModifierRow = z.object({ modifier: text, level: text, factorYear1: n, factorYear2: n, factorYear3: n, carryToYear2Frac: n, ...sourced });
export const greenManureRow = z.object({
  speciesKey: text, name: text, group: text, nPctVegetative: pct, nPctEarlyFlower: pct, nPctFullFlower: pct, nPctSeedFill: pct, cPct: pct, freshDmPct: pct, dmTypicalTHa: n, dmMaxTHa: n, bgNRatio: n, rootAvailFrac: n, ndfaPct: pct, fixedNKgTDm: n, winterHardiness: maybeText, ...sourced,
});
export const residuePlacementRow = z.object({ placement: text, factorRelease: fraction, factorTieUp: fraction, note: text, ...sourced });
export const nIndexPreviousRow = z.object({ previousCropGroup: text, soilGroup: text, winterDrainageMmClass: text, nIndex: n, ...sourced });
export const nIndexBandRow = z.object({ nIndex: n, soilNSupplyMinKgHa: n, soilNSupplyMaxKgHa: maybe, midpointKgHa: n, ...sourced });
export const nIndexRateRow = z.object({ cropKey: text, referenceYieldTHa: n, nIndex: n, nRateKgHa: n, yieldAdjKgNPerT: n, maxUpwardAdjKgHa: n, nCapKgHa: n, ...sourced });
export const residueReleaseRow = z.object({ cnRatio: n, nFracWeek4: n, nFracWeek10: n, nFracWeek20: n, meaning: text, ...sourced });

export const materialRow = z.object({
  key: text, name: text, class: text, mineralisationClass: text, physicalForm: text, densityKgM3: n, dmPct: pct, totalNKgT: n, nh4NKgT: n, no3NKgT: n, pKgT: n, kKgT: n, sKgT: n, caKgT: n, mgKgT: n,
  cToN: maybe, ccePct: n, organicStatus: text, pathogenClass: text, ...sourced,
});
export const mineralisationRow = z.object({
  mineralisationClass: text, y1Frac: n, y1MinFrac: n, y1MaxFrac: n, y2Frac: n, y3Frac: n, y4Frac: n, fastShareFrac: n, kfPerDegcD: n, ksPerDegcD: n, uricShareOfOrgNFrac: n,
  pY1Frac: n, pLongFrac: n, kY1Frac: n, kLongFrac: n, sY1Frac: n, note: maybeText, ...sourced,
});
export const nh3MethodRow = z.object({ methodKey: text, name: text, group: z.enum(['liquid', 'solid', 'poultry']), fRefFrac: fraction, tmRefH: n, maxPracticalRate: n, rateUnit: z.enum(['m3_ha', 't_ha']), ...sourced });
export const nh3ModifierRow = z.object({ modifierKey: text, kind: text, appliesTo: text, level: maybeText, value: n, unit: text, formula: maybeText, ...sourced });
export const nh3SimpleRow = z.object({ group: text, dmBand: text, placement: text, hoursToIncorporationFrom: n, hoursToIncorporationTo: maybe, retainedFrac: fraction, ...sourced });
export const overwinterRow = z.object({ textureGroup: text, drainageClass: text, drainageMmFrom: n, drainageMmTo: maybe, retainedMineralNFrac: fraction, note: maybeText, ...sourced });
export const dmLimitRow = z.object({ physicalForm: text, refuseBelowDmPct: n, warnBelowDmPct: n, warnAboveDmPct: n, refuseAboveDmPct: n, note: maybeText, ...sourced });
export const calibrationLimitRow = z.object({ machineKind: text, cvGoodPct: pct, cvAcceptPct: pct, cvRejectPct: pct, rateErrorOkPct: pct, rateErrorRejectPct: pct, minTrays: n, trayNote: maybeText, ...sourced });
export const compostTestRow = z.object({ testKey: text, name: text, unit: text, goodFrom: z.string(), goodTo: maybe, cautionFrom: z.string().nullable(), cautionTo: maybe, stopRule: maybeText, meaning: maybeText, ...sourced });
export const decompositionRow = z.object({ materialKind: text, decomposedFirstSeasonFrac: fraction, minFrac: fraction, maxFrac: fraction, mixedInSoilFactor: fraction, surfaceMulchFactor: fraction, eFrac: fraction, cnMicrobe: n, appliesTo: text, ...sourced });
export const incropWindowRow = z.object({
  cropGroup: text, technique: text, bbchFrom: maybe, bbchTo: maybe, localStage: maybeText, hardStopBbch: maybe, vStageTo: maybe, vStageHardStop: maybe, hardStopReason: maybeText, maxCropHeightCm: maybe, maxDmPct: maybe, minNh4ShareFrac: maybe, maxRateM3Ha: maybe, standLossInWindowPct: maybe, standLossAfterWindowPct: maybe, note: maybeText, ...sourced,
});
export const organicsParameterRow = z.object({ name: text, meaning: text, unit: text, default: maybeText, min: n, max: n, warnBelow: maybeText, warnAbove: maybeText, editable: text, ...sourced });
export const setbackRow = z.object({ feature: text, situation: text, defaultSetbackM: n, defaultSetbackFt: n, minM: n, maxM: n, editable: text, level: z.enum(['stop', 'caution']), ...sourced });
export const metalRow = z.object({ rowType: z.enum(['book_material', 'limit']), key: text, cuMgKgDm: maybe, znMgKgDm: maybe, cdMgKgDm: maybe, cuKgHaYr: maybe, znKgHaYr: maybe, cdKgHaYr: maybe, cuCumulativeKgHa: maybe, znCumulativeKgHa: maybe, cdCumulativeKgHa: maybe, cuSoilMgKg: maybe, znSoilMgKg: maybe, cdSoilMgKg: maybe, note: maybeText, ...sourced });
export const ringRow = z.object({ plantKind: text, ageClass: text, canopyRadiusMDefault: n, trunkClearM: n, ringOuterBeyondCanopyM: n, nTargetGPerPlant: n, nMinG: n, nMaxG: n, maxSolidLayerCm: n, materialAdvice: maybeText, ...sourced });
export const lateReleaseRow = z.object({ crop: text, cropKey: maybeText, shouldBeShortOfNFrom: text, bbchFrom: n, maxLateReleaseNKgHa: n, why: text, ...sourced });
export const pathogenRow = z.object({ ruleKey: text, materialClass: text, intervalD: n, ...sourced });

export const soilTestLevelRow = z.object({ nutrient: text, extractant: text, scheme: text, soilQualifier: text, cropQualifier: text, unit: text, depthCm: text, lowFrom: n, mediumFrom: n, highFrom: n, veryHighFrom: n, notes: maybeText, ...sourced });
export const targetPhRow = z.object({ cropGroup: text, targetPh: n, actBelowPh: n, maxPreferredPh: n, alSensitivity: text, phYieldSlopePctPerUnit: n, note: maybeText, ...sourced });
export const conversionRow = z.object({ key: text, fromExtractant: text, toExtractant: text, nutrient: text, factor: maybe, factorMin: maybe, factorMax: maybe, intercept: maybe, validWhen: maybeText, forbidWhen: maybeText, note: text, ...sourced });
export const alToleranceRow = z.object({ cropGroup: text, rasAlSatPct: pct, rasMin: pct, rasMax: pct, note: maybeText, ...sourced });
export const ashRow = z.object({ product: text, caco3EquivKgPerT: n, min: n, max: n, note: maybeText, ...sourced });
export const buildDrawdownRow = z.object({ nutrient: z.enum(['p', 'k']), soilGroup: text, buildKgHaPerMgKg: n, buildMin: n, buildMax: n, drawKgHaPerMgKg: n, drawMin: n, drawMax: n, note: maybeText, ...sourced });
export const claimCompoundRow = z.object({ key: text, name: text, formula: maybeText, molarMassG: maybe, hConsumedMolPerMol: maybe, ccePct: maybe, caPct: maybe, mgPct: maybe, kPct: maybe, verdict: z.enum(['neutralises', 'conditional', 'does_not_neutralise', 'acidifies', 'unknown']), explanation: text, ...sourced });
export const criticalLevelRow = z.object({ cropGroup: text, nutrient: z.enum(['p', 'k']), extractant: text, unit: text, crit95: n, crit95Min: n, crit95Max: n, ry0Pct: pct, rmaxKgHa: n, note: maybeText, ...sourced });
export const limeBufferingRow = z.object({ textureClass: text, omClass: text, bcTCaco3HaPerPh20cm: n, bcMin: n, bcMax: n, note: maybeText, ...sourced });
/** The chapter's computed columns (fineness, effective value, shares reacted) are left out: they are worked out from the sieve shares. */
export const limeMaterialRow = z.object({
  key: text, name: text, isLime: z.enum(['yes', 'no']), anion: text, form: text, ccePct: n, cceMin: n, cceMax: n, dryMatterPct: pct, pass236mmPct: pct, pass085mmPct: pct, pass025mmPct: pct, kMult: maybe,
  caPctDry: pct, mgPctDry: pct, organicStatus: text, caution: maybeText, ...sourced,
});
export const microTriggerRow = z.object({ nutrient: text, expectShortageWhen: text, demandingCrops: text, lessLikelyWhen: text, firstFix: text, ...sourced });
export const groundParameterRow = z.object({ name: text, default: maybe, min: n, max: n, warnBelow: maybe, warnAbove: maybe, unit: text, meaning: maybeText, ...sourced });
export const phBandRow = z.object({ band: text, phWaterFrom: n, phWaterTo: n, level: z.enum(['ok', 'info', 'caution', 'stop']), alAndMn: text, p: text, nodulationMo: text, herbicides: text, traceElements: text, action: text, ...sourced });
export const samplingDepthRow = z.object({ purpose: text, depthFromCm: n, depthToCm: n, minCores: n, goodCores: n, maxAreaHaPerSample: n, when: text, note: maybeText, ...sourced });
export const samplingSchemeRow = z.object({ key: text, name: text, cellAreaHa: maybe, cellAreaAc: maybe, spacingM: maybe, coresPerSample: n, useWhen: text, warn: text, ...sourced });
export const variabilityRow = z.object({ property: text, statistic: z.enum(['cv_pct', 'sd_ph_units']), fieldDefault: n, fieldMin: n, fieldMax: n, labDefault: n, labMin: n, labMax: n, note: maybeText, ...sourced });
export const secondaryRateRow = z.object({ nutrient: text, material: text, route: text, rateLowKgHa: maybe, rateDefaultKgHa: maybe, rateHighKgHa: maybe, stopAboveKgHa: maybe, yearsEffect: maybeText, timing: text, caution: maybeText, ...sourced });
export const pScreenRow = z.object({ key: text, extractant: text, unit: text, cautionAt: n, stopAbove: n, action: text, ...sourced });

export const fertiliserRow = z.object({
  productId: text, name: text, physicalForm: text, nTotalPct: n, nNitratePct: n, nAmmoniumPct: n, nUreaPct: n, nSlowPct: n, slowType: text, orgCToN: maybe,
  ureaseInhibitor: n, pPct: n, pAvailableFrac: maybe, kPct: n, sSulphatePct: n, sThiosulphatePct: n, sElementalPct: n, caPct: n, mgPct: n, clPct: n,
  bPct: n, cuPct: n, fePct: n, mnPct: n, moPct: n, znPct: n, densityKgL: maybe, saltOutC: maybe, mixClass: text, acidityKgCaco3Per100kg: n,
  hazards: text, organicStatus: text, pricePerTDemo: n, notes: maybeText, ...sourced,
});
export const placementRow = z.object({
  placementId: text, name: text, kind: text, nRecoveryTypicalFrac: fraction,
  notes: text, ...sourced,
});
export const doseLimitRow = z.object({ doseClass: text, splitClass: z.enum(['light', 'medium', 'heavy']), maxSingleDoseKgHa: n, warnAboveKgHa: n, notes: maybeText, ...sourced });
export const splitTemplateRow = z.object({ templateId: text, cropId: text, nPasses: n, passNo: n, passName: text, bbchFrom: text, bbchTarget: text, bbchTo: text, shareDefaultPct: pct, shareMinPct: pct, shareMaxPct: pct, placementId: text, notes: maybeText, ...sourced });
export const stopRuleRow = z.object({ cropId: text, use: text, lastSoilNBbch: n, lastFoliarNBbch: n, level: z.enum(['info', 'caution', 'stop']), harm: text, ...sourced });
export const tankMixRow = z.object({ mixClassA: text, mixClassB: text, status: z.enum(['ok', 'jar_test', 'no']), reason: maybeText, ...sourced });
export const foliarLimitRow = z.object({ productId: text, cropGroup: text, maxProductPctWv: n, typicalVolumeLHa: n, leafRecoveryFrac: fraction, notes: maybeText, ...sourced });

export const phenologyRow = z.object({ cropId: text, cropName: text, tBaseC: n, tUpperC: n, clockStart: text, fixedStartDoyNh: maybe, autumnCapGddCD: n, restartDoyNh: maybe, stageBbch: text, gddCD: n, ...sourced });
export const gddCurveRow = z.object({ cropId: text, gddCD: n, cumNUptakeFrac: fraction, ...sourced });
export const cropParamRow = z.object({
  cropId: text, cropName: text,
  lateNHarm: maybeText, seedRowCropId: maybeText, chlorideSensitive: n, ...sourced,
});
export const climateRow = z.object({ climateId: text, name: text, latitudeDeg: n, month: n, tMeanC: n, tRangeC: n, rainMm: n, ...sourced });
export const soilRow = z.object({
  textureId: text, name: text,
  splitClass: z.enum(['light', 'medium', 'heavy']), ...sourced,
});

export const rangeRow = z.object({
  setId: text, crop: text, cropGroup: text, part: text, partLabel: text, bbchFrom: n, bbchTo: n, stageLabel: text, nutrient: text, deficientBelow: maybe, lowBelow: n, sufficientLow: n, sufficientHigh: n, highAbove: n, toxicAbove: maybe,
  unit: text, system: maybeText, interpGroup: maybeText, protocolId: text, ...sourced, note: maybeText,
});
export const tissueNutrientRow = z.object({
  nutrient: text, coreUnit: z.enum(['%', 'mg/kg']), plausibleMin: n, plausibleMax: n, refuseAbove: n, combinedCvPct: n,
  ...sourced, note: maybeText,
});
export const protocolRow = z.object({
  protocolId: text, crops: text, partExact: text, howToFindIt: text, bbchFrom: n, bbchTo: n, minCount: n, recommendedCount: n, pattern: text, avoid: text,
  dryAndPack: text, typicalMistake: text, ...sourced,
});
