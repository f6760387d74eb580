import { expect, test, type Page } from '@playwright/test';
import { choose, expectAccessible, fill, open, saved } from './desk';

const tab = (page: Page, name: string) => page.getByRole('tab', { name, exact: true }).click();
const answer = (page: Page, question: RegExp, say: 'yes' | 'no') =>
  page.getByRole('group', { name: question }).getByLabel(say, { exact: true }).check();
/** Values typed into the boxes of a leaf. */
async function values(page: Page, given: Record<string, string>) {
  for (const [nutrient, value] of Object.entries(given))
    await page.locator(`#leaf-${nutrient}`).fill(value);
}
const FED = {
  N: '4.2',
  P: '0.45',
  K: '3.6',
  S: '0.35',
  Ca: '0.6',
  Mg: '0.2',
  B: '8',
  Zn: '35',
  Mn: '60',
  Cu: '8',
};

test('a protocol is walked on a phone, step by step, and the sample waits for its laboratory', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await open(page, '/fields/hazel-dell/season');
  await tab(page, 'Take the leaf');
  await page.getByRole('button', { name: 'Take this leaf' }).first().click();
  const walk = page.getByTestId('walk');
  await expect(walk).toContainText('step 1 of 6');
  await walk.getByRole('button', { name: 'Done' }).click();
  // Focus goes where the work goes.
  await expect(walk.getByRole('heading', { name: 'Which leaf' })).toBeFocused();
  await expect(walk.getByRole('img', { name: /filled in: leaves from the middle/u })).toBeVisible();
  await expectAccessible(page);
  await walk.getByRole('button', { name: 'Done' }).click();
  for (let k = 0; k < 12; k++) await walk.getByRole('button', { name: '5 leaves' }).click();
  await expect(walk.getByTestId('leaf-count')).toContainText('60 of');
  await walk.getByRole('button', { name: 'Done' }).click();
  await expect(walk).toContainText('Washed');
  await walk.getByRole('button', { name: 'Done' }).click();
  await fill(walk, 'Stage seen (BBCH)', '80');
  await fill(walk, 'Where', 'rows 4 to 9');
  await fill(walk, 'Who took it', 'Odo');
  await fill(walk, 'Number on the bag', 'HD-1');
  await walk.getByRole('button', { name: 'Done' }).click();
  await expect(page.locator('html')).toHaveJSProperty('scrollWidth', 390);
  await walk.getByRole('button', { name: 'Keep the sample' }).click();
  await expect(walk).toHaveCount(0);
  await tab(page, 'Read it');
  await expect(page.getByTestId('leaves-waiting')).toContainText('rows 4 to 9, Odo: not sent yet');
  // Its values come under its own name.
  await page.getByLabel('Values of').selectOption({ index: 1 });
  await values(page, { N: '2.3', K: '0.9' });
  await page.getByRole('button', { name: 'Read this leaf' }).click();
  await expect(page.getByTestId('leaves-waiting')).toHaveCount(0);
  await expect(page.getByRole('article', { name: /^Leaf sample of/u }).first()).toContainText(
    'rows 4 to 9',
  );
});

test('a laboratory file with a unit that cannot be and a row of a late stage', async ({ page }) => {
  await open(page, '/fields/terrace-long/season');
  const rows = [
    'Sample,Crop,Part,BBCH,Date,N %,P %,K %,S %,Mg %,Mn mg/kg,Zn mg/kg,B mg/kg',
    'block,rye,whole shoot,31,2027-02-20,4.1,0.45,34,0.35,0.2,60,35,8',
    'late,rye,whole shoot,71,2027-02-20,2.0,0.25,2.0,0.2,0.1,30,20,5',
  ];
  await page.locator('input[type=file]').setInputFiles({
    name: 'leaves.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(rows.join('\n')),
  });
  // 34 % potassium: what is meant is asked, never guessed.
  const asked = page.getByRole('region', { name: 'To be answered' });
  await expect(asked).toContainText('34');
  await asked.getByRole('radio', { name: /g\/kg/u }).check();
  await page.getByRole('button', { name: /^block/u }).click();
  await expect(page.locator('#leaf-N')).toHaveValue('4.1');
  await expect(page.getByLabel('Stage (BBCH)')).toHaveValue('31');
  // A figure typed in the wrong unit is asked as well, and stays until it is answered.
  await page.locator('#leaf-Zn').fill('0.0035');
  await page.getByRole('button', { name: 'Read this leaf' }).click();
  const zinc = page.getByTestId('leaf-asked');
  await expect(zinc).toContainText('Zn 0.0035 mg/kg');
  await expect(page.locator('#leaf-Zn')).toHaveValue('0.0035');
  await zinc.getByRole('button', { name: 'It is 0.0035 %' }).click();
  const leaf = page.getByRole('article', { name: /Leaf sample of 20 Feb 2027/u });
  await expect(leaf.getByRole('row', { name: /^Zn/u })).toContainText('35 mg/kg');
  await expect(leaf.getByRole('row', { name: /^K/u })).toContainText('3.4 %');
  await expect(leaf).toContainText('consensus');
  await page.getByRole('button', { name: /^late/u }).click();
  await page.getByRole('button', { name: 'Read this leaf' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'outside every window' })).toContainText(
    'BBCH 30-32',
  );
  await expect(page.getByRole('article', { name: /Leaf sample of 20 Feb 2027/u })).toHaveCount(1);
  await expectAccessible(page);
});

test('a bad corner beside good plants: a cause, the next test, and what its answer changes', async ({
  page,
}) => {
  await open(page, '/fields/brook-meadow/season');
  const add = async (role: string, given: Record<string, string>, mass: string) => {
    await choose(page, 'Of', role);
    await fill(page, 'Stage (BBCH)', '31');
    await fill(page, 'Ten plants, dry', mass);
    await values(page, given);
    await page.getByRole('button', { name: 'Read this leaf' }).click();
    await expect(page.locator('#leaf-N')).toHaveValue('');
  };
  await add('unaffected', FED, '100');
  await add('affected', { ...FED, S: '0.12' }, '60');
  const pair = page.getByTestId('leaf-pair');
  await expect(pair).toContainText('S is short in the affected plants');
  await expect(pair.getByRole('row', { name: /^S/u })).toContainText('deficient in affected');

  await tab(page, 'What ails it');
  await answer(page, /youngest leaves or the growing point/u, 'yes');
  await answer(page, /whole plant evenly pale/u, 'yes');
  await expect(page.getByTestId('symptom-verdict')).toContainText('not enough');
  await answer(page, /oldest \(lowest\) leaves/u, 'no');
  await page.getByText('Pattern in the leaf').click();
  await answer(page, /evenly yellow with veins as pale/u, 'yes');
  const evidence = page.getByTestId('evidence');
  await expect(evidence.getByRole('columnheader').nth(1)).toContainText('sulphur deficiency');
  await expect(page.getByTestId('next-test')).toBeVisible();
  const chance = () =>
    evidence
      .getByRole('row', { name: /^together/u })
      .getByRole('cell')
      .first()
      .innerText();
  const before = await chance();
  await page.getByText(/^Tests that were done/u).click();
  await page.getByLabel(/^Sap or stem nitrate/u).selectOption('same');
  await expect.poll(chance).not.toBe(before);
  await expectAccessible(page);
  await saved(page);
});

test('calcium on the fruit: sprays are laid until the target is met, and stand on the furrow', async ({
  page,
}) => {
  await open(page, '/fields/upper-strip/season');
  await tab(page, 'Act');
  const fruit = page.getByTestId('fruit-calcium');
  await expect(fruit).toContainText('No spray of calcium yet: the target is 2 kg/ha');
  await fill(fruit, 'Water of a spray', '500');
  await choose(page, 'Salt', 'calcium_chloride_77');
  await fill(fruit, 'Strength', '3');
  await fruit.getByLabel('First spray on').fill('2027-07-20');
  await fruit.getByRole('button', { name: 'Plan the sprays' }).click();
  await expect(fruit.getByRole('alert')).toContainText('burns');
  await fill(fruit, 'Strength', '0.3');
  await fruit.getByRole('button', { name: 'Plan the sprays' }).click();
  await expect(fruit).toContainText('the target of 2 kg/ha is met');
  await expect(fruit.getByRole('alert')).toHaveCount(0);
  await expectAccessible(page);
  await saved(page);
  await open(page, '/fields/upper-strip/supply');
  await expect(page.getByTestId('passes')).toContainText('Calcium chloride');
});

test('what the leaf asks of the soil stands in the next season’s budget', async ({ page }) => {
  await open(page, '/fields/yard-piece/season');
  await page.getByLabel('Sampled on').fill('2027-02-20');
  await fill(page, 'Stage (BBCH)', '55');
  await values(page, { N: '3.5', P: '0.4', K: '2.2', S: '0.3', Ca: '0.8', Mg: '0.12', Zn: '30' });
  await page.getByRole('button', { name: 'Read this leaf' }).click();
  await expect(page.getByRole('article', { name: /Leaf sample of 20 Feb 2027/u })).toContainText(
    'Mg',
  );
  await tab(page, 'Act');
  const magnesium = page.getByTestId('action-Mg');
  await expect(magnesium.locator('ol > li')).toHaveCount(6);
  await magnesium.getByRole('button', { name: /to the soil of next season/u }).click();
  await expect(page.getByTestId('next-season')).toContainText('kieserite');
  await saved(page);
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Next season' }).click();
  await expect(page.getByRole('checkbox', { name: /Kieserite/u })).toBeChecked();
  await page.getByRole('button', { name: 'Open 2027/28 for 1 field' }).click();
  await expect(page.getByText('Opened for 1 field.')).toBeVisible();
  await page.getByRole('link', { name: 'Yard Piece 2027/28' }).click();
  await page
    .getByRole('link', { name: /Supply/u })
    .first()
    .click();
  await expect(page.getByTestId('passes')).toContainText('Kieserite');
});

test('leaves of a whole farm come in from one file; the simulated laboratory answers what waits', async ({
  page,
}) => {
  await open(page, '/samples');
  await choose(page, 'Farm of the leaves', { label: 'Tansy Hollow' });
  await fill(page, 'Leaf laboratory', 'Vale testing house');
  await page.getByLabel('File of leaves').setInputFiles({
    name: 'leaves.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      [
        'Sample,Field,Part,BBCH,Date,N %,Mg %,Zn mg/kg',
        'S-1,Rookery,top foliage,62,2027-02-20,4.2,0.3,0.0035',
        'S-2,Nowhere,top foliage,62,2027-02-20,4.2,0.3,35',
      ].join('\n'),
    ),
  });
  await page.getByRole('button', { name: 'Look at the leaves' }).click();
  const seen = page.getByTestId('leaves-seen');
  await expect(seen).toContainText('Nowhere is not a field of this farm');
  // Another laboratory's words for a part, and a unit that cannot be.
  await seen.getByRole('group', { name: /Part/u }).getByRole('radio').first().check();
  await seen
    .getByRole('group', { name: /Zn/u })
    .getByRole('radio', { name: 'in %: 35 mg/kg' })
    .check();
  await seen.getByRole('button', { name: 'Bring in 1 leaf' }).click();
  await expect(page.getByText('1 leaf is in, 1 stayed out.')).toBeVisible();
  await expectAccessible(page);
  await open(page, '/fields/rookery/season');
  await expect(
    page
      .getByRole('article', { name: /Leaf sample of 20 Feb 2027/u })
      .getByRole('row', { name: /^Zn/u }),
  ).toContainText('35 mg/kg');
  await open(page, '/samples');
  await choose(page, 'or leaves that wait, of', { label: 'Tansy Hollow' });
  await page.getByRole('button', { name: 'Analyse the leaves' }).click();
  await expect(
    page
      .getByRole('alert')
      .filter({ hasText: 'take one first' })
      .or(page.getByText('simulated turn-round')),
  ).toBeVisible();
});
