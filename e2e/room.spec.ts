import { type Page, expect, test } from '@playwright/test';
import { TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('room');
});
test.afterAll(() => workshop.close());

/**
 * Controls that leave the window to the side, or that something else covers where they are. What is scrolled away in a list of its
 * own is there by scrolling.
 */
const hidden = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found: string[] = [];
    for (const one of Array.from(
      document.querySelectorAll<HTMLElement>('button, a[href], input, [role="combobox"], [role="separator"]'),
    )) {
      const box = one.getBoundingClientRect();
      if (!box.width || !box.height || !one.checkVisibility({ visibilityProperty: true }) || one.closest('[hidden], .unseen'))
        continue;
      const words = (one.getAttribute('aria-label') ?? one.innerText ?? one.title).trim().slice(0, 40);
      const name = `${one.tagName.toLowerCase()} “${words}”`;
      if (box.left < -1 || box.right > window.innerWidth + 1) {
        found.push(`${name} leaves the window: ${Math.round(box.left)} to ${Math.round(box.right)}`);
        continue;
      }
      const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];
      if (y < 0 || y > window.innerHeight) continue;
      let scrolled = false;
      for (let up = one.parentElement; up; up = up.parentElement) {
        const { overflowX, overflowY } = getComputedStyle(up);
        if (overflowX === 'visible' && overflowY === 'visible') continue;
        const frame = up.getBoundingClientRect();
        if (x < frame.left || x > frame.right || y < frame.top || y > frame.bottom) scrolled = true;
      }
      if (scrolled) continue;
      const top = document.elementFromPoint(x, y);
      if (!top || one.contains(top) || top.contains(one) || one.closest('label')?.contains(top)) continue;
      // What stays at the edge of a page that is scrolled covers what can be scrolled out from under it.
      let above: Element | null = top;
      while (above && !['sticky', 'fixed'].includes(getComputedStyle(above).position)) above = above.parentElement;
      if (above && document.documentElement.scrollHeight > window.innerHeight + 1) continue;
      // A part of the library lays its own button over its field.
      if (
        top.closest('p-select, p-radiobutton, p-checkbox, p-selectbutton') ===
          one.closest('p-select, p-radiobutton, p-checkbox, p-selectbutton') &&
        one.closest('p-select, p-radiobutton, p-checkbox, p-selectbutton')
      )
        continue;
      found.push(`${name} is covered by ${top.tagName.toLowerCase()}.${top.className}`);
    }
    return found;
  });

/** The sizes that windows have, and those that 1280 × 800 has at one and a half and at two times its size. */
for (const [width, height, words] of [
  [1280, 800, 'as it is meant'],
  [1024, 700, 'a small window'],
  [853, 533, 'at 150 %'],
  [640, 400, 'at 200 %'],
  [1920, 1080, 'a large window'],
] as const)
  test(
    `every control can be reached at ${width} × ${height}, ${words}`,
    { tag: width === 853 ? [] : '@long' },
    async ({ page }) => {
      await page.setViewportSize({ width, height });
      await page.goto(workshop.url);
      await expect(page.getByText('Fen map leaflet', { exact: true })).toBeVisible();
      expect(await hidden(page)).toEqual([]);
      await page.getByRole('link', { name: 'Boardwalk waymarker', exact: true }).click();
      await expect(page.getByRole('button', { name: 'Contents' })).toBeVisible();
      await expect(page.locator('twin-stage')).toBeVisible();
      expect(await hidden(page)).toEqual([]);
      await page.getByRole('button', { name: 'Contents' }).click();
      await page.locator('twin-contents').getByRole('button', { name: 'Trail name' }).click();
      await expect(page.getByLabel('Wording')).toBeVisible();
      expect(await hidden(page)).toEqual([]);
      await page.getByRole('button', { name: 'Parameters' }).click();
      expect(await hidden(page)).toEqual([]);
      await page.getByRole('button', { name: 'Parameters' }).click();
      await page.locator('[data-copy="proof for the reserve"]').click();
      await expect(page.locator('twin-match-lane tbody tr').first()).toBeVisible();
      expect(await hidden(page)).toEqual([]);
      // There the copies gave their room to the match.
      if (width < 900) await page.getByRole('button', { name: 'Master and copies side by side' }).click();
      await page.getByRole('button', { name: 'Derive …' }).click();
      await expect(page.getByRole('button', { name: 'Write copy' })).toBeEnabled();
      expect(await hidden(page)).toEqual([]);
      await page.goto(`${workshop.url}/house`);
      await expect(page.getByRole('heading', { name: 'House rules' })).toBeVisible();
      expect(await hidden(page)).toEqual([]);
    },
  );

test('the edges between the lanes are pulled, moved by keys, remembered, and put back', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  await page.getByRole('link', { name: 'Boardwalk waymarker', exact: true }).click();
  const [edge, lane] = [page.getByRole('separator', { name: 'Edge of the copies' }), page.locator('twin-copies-lane')];
  const width = async () => Math.round((await lane.boundingBox())!.width);
  await expect(edge).toBeVisible();
  const before = await width();
  const at = (await edge.boundingBox())!;
  await page.mouse.move(at.x + 4, at.y + 200);
  await page.mouse.down();
  await page.mouse.move(at.x - 56, at.y + 200, { steps: 4 });
  await page.mouse.up();
  expect(await width()).toBe(before + 60);
  await page.keyboard.press('ArrowRight');
  expect(await width()).toBe(before + 36);
  await page.reload();
  await expect(edge).toBeVisible();
  expect(await width()).toBe(before + 36);
  // However far it is pulled, the board keeps room.
  await edge.focus();
  for (let i = 0; i < 60; i++) await page.keyboard.press('ArrowLeft');
  expect((await page.locator('twin-keep-lane').boundingBox())!.width).toBeGreaterThanOrEqual(280);
  await edge.dblclick();
  expect(await width()).toBe(before);
});

/** Bytes, as they are sent, that the first view may load: what it does now, and a little. */
const FIRST_VIEW = 300_000;

test('the Desk comes without what only masters need', async ({ page }) => {
  // What is fetched ahead of its need, once there is time, does not count.
  await page.addInitScript(() => (window.requestIdleCallback = () => 0));
  const loaded: Promise<number>[] = [];
  page.on('requestfinished', (asked) => {
    if (/\.(js|css)$/.test(new URL(asked.url()).pathname))
      loaded.push(asked.sizes().then(({ responseBodySize }) => responseBodySize));
  });
  await page.goto(workshop.url);
  await expect(page.getByText('Fen map leaflet', { exact: true })).toBeVisible();
  await page.waitForLoadState('networkidle');
  const sizes = await Promise.all([...loaded]);
  expect(sizes.length).toBeGreaterThan(3);
  expect(sizes.reduce((sum, size) => sum + size)).toBeLessThanOrEqual(FIRST_VIEW);
});
