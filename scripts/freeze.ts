// npm run freeze -- plan | farm | sheet: before a document gets a new version, its schema and a
// real file of
// today are frozen beside the steps. Only a version that has not been frozen yet is written.
import fs from 'node:fs';
import path from 'node:path';
import { z } from 'zod';
import { PLAN_VERSION } from '../src/core/document/document';
import { planFileSchema, writePlanFile } from '../src/core/document/seasonFile';
import { sheetOfPlan } from '../src/core/views/figures';
import { sheetSchema } from '../src/core/views/sheetSchema';
import { SHEET_VERSION } from '../src/core/views/sheet';
import { demoDatabase } from '../src/data/testDatabase';
import { terraceShortWorked } from '../src/demo/terraceShortWorked';
import { exportFarm, FARM_VERSION, farmFileSchema } from '../src/server/farmFile';

function write(file: string, text: string): void {
  fs.writeFileSync(file, text, { flag: 'wx' });
  console.log(`Wrote ${file}`);
}
const json = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`;

function freezePlan(): void {
  const at = 'src/core/document/versions';
  write(path.join(at, `${PLAN_VERSION}.schema.json`), json(planFileSchema()));
  write(path.join(at, `${PLAN_VERSION}.plan.json`), writePlanFile(terraceShortWorked()));
  const all = Array.from({ length: PLAN_VERSION }, (_, i) => i + 1);
  fs.writeFileSync(
    path.join(at, 'frozen.ts'),
    `// Written by \`npm run freeze -- plan\`: the schema of every version before today's.
${all.map((n) => `import schema${n} from './${n}.schema.json';`).join('\n')}

export const FROZEN: Readonly<Record<number, unknown>> = {
${all.map((n) => `  ${n}: schema${n},`).join('\n')}
};
`,
  );
}

async function freezeFarm(): Promise<void> {
  const at = 'src/server/farmFileVersions';
  write(path.join(at, `${FARM_VERSION}.schema.json`), json(farmFileSchema()));
  process.env.FURROW_TODAY = '2027-02-26';
  const { db, close } = await demoDatabase();
  const ines = { id: 'ines-calloway', name: 'Ines Calloway' };
  const { text } = await exportFarm(db, ines, 'kestrel-terrace');
  write(path.join(at, `${FARM_VERSION}.farm.json`), text);
  await close();
}

function freezeSheet(): void {
  const at = 'src/core/views/sheetVersions';
  write(path.join(at, `${SHEET_VERSION}.schema.json`), json(z.toJSONSchema(sheetSchema)));
  write(path.join(at, `${SHEET_VERSION}.sheet.json`), json(sheetOfPlan(terraceShortWorked())));
}

const asked = process.argv[2];
if (asked === 'plan') freezePlan();
else if (asked === 'farm') await freezeFarm();
else if (asked === 'sheet') freezeSheet();
else throw new Error('Say which: npm run freeze -- plan, farm or sheet');
