import { type Locator, type Page, expect, test } from '@playwright/test';
import { TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('keyboard');
});
test.afterAll(() => workshop.close());

/** So many stops of the keyboard a view may have before one is where one wants to be. */
const STOPS = 150;

/** Goes on with Tab until something is focused, and shows that one sees where one is. */
async function tabTo(page: Page, aim: Locator): Promise<void> {
  for (let i = 0; i < STOPS; i++) {
    if (await aim.evaluate((one) => one === document.activeElement).catch(() => false)) {
      // A ring, an edge or a mark of its own: something changes where the focus is.
      expect(await aim.evaluate((one) => one.matches(':focus-visible'))).toBe(true);
      return;
    }
    await page.keyboard.press('Tab');
  }
  throw new Error(`Tab does not lead to ${String(aim)}.`);
}

test(
  'from the Desk to a settled copy by the keyboard alone: found, looked at, derived again, and another accepted',
  { tag: '@long' },
  async ({ page }) => {
    const verdictOf = (label: string) => page.locator(`[data-copy="${label}"] twin-verdict-mark`);
    await page.goto(workshop.url);
    await expect(page.getByText('Fen map leaflet', { exact: true })).toBeVisible();
    await tabTo(page, page.getByRole('link', { name: 'Boardwalk waymarker', exact: true }));
    await page.keyboard.press('Enter');
    await expect(page.locator('twin-stage')).toBeVisible();

    await tabTo(page, page.locator('[data-copy="proof for the reserve"]'));
    await page.keyboard.press('Enter');
    await expect(page.locator('twin-match-lane tbody tr').first()).toBeVisible();
    await tabTo(page, page.locator('twin-match-lane tbody button').first());
    await page.keyboard.press('Enter');
    await expect(page.locator('twin-match-lane tbody button').first()).toHaveAttribute('aria-pressed', 'true');
    await tabTo(page, page.getByRole('button', { name: 'Derive again', exact: true }));
    await page.keyboard.press('Enter');
    await expect(verdictOf('proof for the reserve')).toHaveAttribute('data-verdict', 'in step');

    // By its name, from wherever one is.
    await page.keyboard.press('/');
    await page.keyboard.type('sheet for the');
    await expect(page.getByRole('option', { name: 'sheet for the hide' })).toHaveAttribute('aria-selected', 'true');
    await page.keyboard.press('Enter');
    await expect(page.locator('[data-copy="sheet for the hide"]')).toHaveAttribute('aria-pressed', 'true');
    await tabTo(page, page.getByRole('button', { name: 'Accept …' }));
    await page.keyboard.press('Enter');
    await tabTo(page, page.getByLabel('Reason for accepting'));
    await page.keyboard.type('Agreed on the phone');
    await page.keyboard.press('Enter');
    await expect(verdictOf('sheet for the hide')).toHaveAttribute('data-verdict', 'accepted');
  },
);
