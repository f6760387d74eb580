import { expect, test, type Page } from '@playwright/test';
import { choose, expectAccessible, fill, open, saved, search } from './desk';

const tab = (page: Page, name: string) => page.getByRole('tab', { name, exact: true }).click();

test('blocks side by side: the good ones become a standard of the farm, beside its leaves and never in place of the range', async ({
  page,
}) => {
  await open(page, '/samples/leaves?farm=quern-orchard');
  await page.getByRole('link', { name: /^Hazelnut/u }).click();
  const blocks = page.getByTestId('leaf-blocks');
  await expect(blocks.getByRole('row', { name: /printed range/u })).toContainText('2.2-2.5');
  await expect(
    page.getByRole('button', { name: 'Choose the best quarter by yield' }),
  ).toBeDisabled();
  await blocks.getByRole('checkbox', { name: /14 Aug 2024/u }).check();
  await blocks.getByRole('checkbox', { name: /16 Aug 2023/u }).check();
  await blocks.getByRole('checkbox', { name: /15 Aug 2025/u }).check();
  const good = page.getByTestId('good-blocks');
  await expect(good.getByRole('row', { name: /^N\s/u })).toContainText('within chance');
  await expect(page.getByText(/3 samples of one block/u)).toBeVisible();
  const keep = page.getByRole('button', { name: /as the farm’s own provisional standard/u });
  await keep.click();
  await expect(page.getByRole('alert').filter({ hasText: 'Why are these' })).toBeVisible();
  await fill(page, 'Why these are the good ones', 'heaviest set of the last years');
  await expect(page.getByRole('button', { name: 'Keep as norms of the balance' })).toBeDisabled();
  await keep.click();
  const own = page.getByTestId('own-standards');
  await expect(own).toContainText('heaviest set of the last years');
  await expect(own).toContainText('provisional');
  await expectAccessible(page);

  // Norms come from a table: a pair without its variation stays out, the rest comes in.
  await page.getByLabel(/Norms of the balance for these leaves/u).setInputFiles({
    name: 'norms.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      'norm_set,ratio,mean,cv,n,source\nhazels,N/P,15,14,120,a journal\nhazels,N/K,2.1,20,120,a journal\nhazels,K/Ca,0.7,,120,a journal\n',
    ),
  });
  await expect(page.getByText('2 norms are in, 1 row stayed out.')).toBeVisible();
  await expect(page.getByLabel('Rows that stayed out')).toContainText('its variation is missing');

  await open(page, '/fields/hazel-bank/season');
  await expect(page.getByTestId('own-beside').getByRole('row', { name: /^K\s/u })).toContainText(
    /below most of them|spreads below them/u,
  );
  await expect(page.getByTestId('own-beside')).toContainText('the printed range decides');
  await expect(page.getByTestId('balance-beside')).toContainText('it acts only');
  await expectAccessible(page);

  await open(page, '/samples/leaves?farm=Quern%20Orchard');
  await page.getByRole('button', { name: /^Remove the standard of/u }).click();
  await page.getByRole('button', { name: 'Remove the norms hazels' }).click();
  await expect(page.getByText('None yet.')).toHaveCount(2);
});

test('a crop without ranges keeps its leaf, and reads it beside a similar crop that somebody named', async ({
  page,
}) => {
  await open(page, '/fields/bay-three/crop');
  await search(page, 'Crop', 'Spinach');
  await saved(page);
  await open(page, '/fields/bay-three/season');
  await expect(page.getByText(/none; the values are kept for a pair/u)).toBeVisible();
  await choose(page, 'Part', 'wrapper_leaf');
  await fill(page, 'Sampled on', '2027-02-20');
  await fill(page, 'Stage (BBCH)', '45');
  await page.locator('#leaf-N').fill('21');
  await page.getByRole('button', { name: 'Read this leaf' }).click();
  // What no leaf holds is asked even where no range is known.
  await page.getByTestId('leaf-asked').getByRole('button', { name: 'It is 21 g/kg' }).click();
  const leaf = page.getByRole('article', { name: /Leaf sample of 20 Feb 2027/u });
  await expect(leaf).toContainText('There is no leaf standard for this crop');
  await expect(leaf.getByRole('row', { name: /^N/u })).toContainText('no standard');
  await page.getByRole('link', { name: 'Leaves side by side' }).click();
  await expect(page.getByText('no printed range for this crop')).toBeVisible();
  await choose(page, 'Spinach beside', 'lettuce');
  await expect(page.getByTestId('similar-crops')).toContainText('Ines Calloway');
  await open(page, '/fields/bay-three/season');
  const similar = page.getByTestId('similar-beside');
  await expect(similar.getByRole('row', { name: /^N\s/u })).toContainText('below it');
  await expect(similar).toContainText('of another crop');
  await expect(leaf).not.toContainText('Shortest first');
  await expectAccessible(page);
});

test('fruit that drops: water is asked before calcium and potassium; a feed is weighed against the leaf', async ({
  page,
}) => {
  await open(page, '/fields/hazel-bank/season');
  await tab(page, 'What ails it');
  const drop = page.getByTestId('fruit-drop');
  await fill(page, 'Years in which it dropped', '3');
  await choose(page, 'Dry when it fell', 'no');
  await expect(drop).not.toContainText('The leaf is low in');
  await choose(page, 'The ground stood wet', 'yes');
  await expect(drop).toContainText('drainage and roots first');
  await choose(page, 'The ground stood wet', 'no');
  await expect(drop).toContainText('The leaf is low in K');
  await expectAccessible(page);
  await tab(page, 'Act');
  await search(page.getByTestId('feed-ratio'), 'Product', '15-15-15');
  await expect(page.getByTestId('feed-ratio')).toContainText('N : P : K : Ca : Mg');
  await expect(page.getByTestId('feed-ratio').getByRole('row', { name: /^Ca/u })).toContainText(
    'it holds none',
  );
  await expectAccessible(page);
  await saved(page);
});

test('simulated meters fill the boxes and keep nothing by themselves; a card is printed for the pocket', async ({
  page,
}) => {
  await open(page, '/fields/pear-acre/season');
  await tab(page, 'Stages and meters');
  await fill(page, 'Stage then (BBCH)', '75');
  await choose(page, 'The meter shows', 'K');
  await page
    .getByTestId('sap')
    .getByRole('button', { name: /simulated meter/u })
    .click();
  await expect(page.getByLabel('Meter reading', { exact: true })).not.toHaveValue('');
  await expect(page.getByTestId('sap').getByRole('table')).toHaveCount(0);
  await page.getByRole('button', { name: 'Strip that was fed richly' }).click();
  await page
    .getByTestId('measured')
    .getByRole('button', { name: /simulated meter/u })
    .click();
  await expect(page.getByLabel('The rich strip reads', { exact: true })).not.toHaveValue('');
  await tab(page, 'Take the leaf');
  const card = page.getByTestId('pocket-card').first();
  await expect(card).toBeHidden();
  await page.emulateMedia({ media: 'print' });
  await expect(card).toBeVisible();
  await expect(card).toContainText('Pear Acre');
  await page.emulateMedia({ media: 'screen' });
});
