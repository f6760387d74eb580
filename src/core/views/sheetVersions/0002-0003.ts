import type { Step } from '../../document/versions/step';

/** Sheet 3 ends with one balance; what was frozen before keeps the end that it had. */
export const sheetStep0002: Step = { from: 2, up: (sheet) => ({ ...sheet, version: 3 }) };
