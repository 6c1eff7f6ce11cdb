import { expect, test } from '@playwright/test';
import { choose, chooseAct, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.emptyFor(info);
});
test.afterEach(() => workshop.leave());

test(
  'a master is begun in a usual size, turned and in inches; a template of one is made, begun from without a name, and taken away',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto(workshop.url);
    // What comes in by then moves what is clicked.
    await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
    await page.getByRole('button', { name: 'New master …' }).click();
    const form = page.getByRole('form', { name: 'New master' });
    // What is chosen at first comes a moment after the form itself.
    await expect(form.getByLabel('Cut or routed panel')).toBeChecked();
    await form.getByLabel('Printed sheet').check();
    await choose(form, 'Size', 'A5');
    await form.getByLabel('level').check();
    await choose(form, 'Unit', 'in');
    await expect(form.getByLabel('Width')).toHaveValue('8.268');
    await form.getByLabel('Height').fill('5');
    await form.getByLabel('Height').blur();
    await expect(form.getByLabel('Size')).toHaveText('another');
    await form.getByLabel('What is it?').fill('Card');
    await form.getByRole('button', { name: 'Start master' }).click();
    await expect(page.getByText('8.268 × 5 in').or(page.getByText('210 × 127 mm'))).toBeVisible();

    await page.getByRole('link', { name: 'Desk', exact: true }).click();
    await chooseAct(page, 'What can be done with Card', 'Make a template …');
    await page.getByLabel('What is the template called?').fill('House card');
    await page.getByRole('button', { name: 'Make it' }).click();
    await expect(page.getByRole('form', { name: 'Template of this master' })).toHaveCount(0);
    await page.getByRole('button', { name: 'New master …' }).click();
    await page.getByRole('button', { name: 'House card', exact: true }).click();
    await page.getByRole('button', { name: 'Start master' }).click();
    await expect(page.getByLabel('Title of the master')).toHaveValue('Unnamed');
    await expect(page.locator('.revision')).toContainText('Begun from the template “House card”');

    await page.getByRole('link', { name: 'Desk', exact: true }).click();
    await page.getByRole('button', { name: 'New master …' }).click();
    await page.getByRole('button', { name: 'Take the template House card away' }).click();
    await expect(page.getByRole('group', { name: 'Templates' })).toHaveCount(0);
  },
);
