import type { Step } from '../../document/versions/step';

/** Sheet 2 says by which version it was written; its words and figures are those of sheet 1. */
export const sheetStep0001: Step = { from: 1, up: (sheet) => ({ ...sheet, version: 2 }) };
