import type { Locator, Page } from '@playwright/test';
import { expect, go, test } from './folvex';

test.use({ hasTouch: true });

interface Place {
  /** CSS pixels. */
  left: number;
  top: number;
  width: number;
}

async function placeOf(shown: Locator): Promise<Place> {
  const { x, y, width } = (await shown.boundingBox())!;
  return { left: x, top: y, width };
}

/** Waits until a gesture has its effect: Chromium and the screen take their time. */
async function after(shown: Locator, done: (place: Place) => boolean): Promise<Place> {
  let place = await placeOf(shown);
  const seen = async (): Promise<string> => {
    place = await placeOf(shown);
    return done(place) ? 'done' : JSON.stringify(place);
  };
  await expect.poll(seen).toBe('done');
  return place;
}

/** Two fingers on a point, moved apart from one distance to another, as a touch screen reports it. */
async function pinch(page: Page, x: number, y: number, from: number, to: number): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const touchPoints = (apart: number) => [
    { x: x - apart / 2, y, id: 0 },
    { x: x + apart / 2, y, id: 1 },
  ];
  await session.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: touchPoints(from) });
  for (let step = 1; step <= 5; step++) {
    const apart = from + ((to - from) * step) / 5;
    await session.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: touchPoints(apart) });
  }
  await session.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await session.detach();
}

/** How far along its width a place of the window is, from 0 to 1. */
const shareAt = ({ left, width }: Place, x: number): number => (x - left) / width;

for (const [name, open, selector] of [
  [
    'a sheet',
    async (page: Page) => {
      await page.getByRole('option', { name: /A-101/ }).dblclick();
      await page.locator('fx-sheet-picture[data-painted]').waitFor();
    },
    'fx-sheet-place .desk .sheet',
  ],
  [
    'a page of a run',
    async (page: Page) => {
      await go(page, 'Package');
      await page.getByRole('button', { name: /^Publish/ }).click();
      await page.getByRole('button', { name: 'Open on the light table' }).click();
      await page.locator('.sheet[data-painted]').waitFor();
    },
    'fx-page-viewer .sheet',
  ],
] as const) {
  test(`${name} is dragged, and grows under two fingers and under the pointer by wheel`, async ({ folvex: page }) => {
    await open(page);
    const shown = page.locator(selector);
    const whole = await placeOf(shown);
    for (let press = 0; press < 3; press++) await page.getByRole('button', { name: 'Larger' }).click();
    const large = await after(shown, ({ width }) => width > whole.width * 1.9);
    const [x, y] = [500, 300];

    // The mouse comes first: for a while after a touch, mouse events count as the ones that browsers make of it.
    const button = name === 'a sheet' ? 'middle' : 'left';
    await page.mouse.move(x, y);
    await page.mouse.down({ button });
    await page.mouse.move(x + 60, y + 30, { steps: 4 });
    await page.mouse.up({ button });
    const dragged = await after(shown, ({ left }) => left > large.left + 50);
    expect(dragged.left - large.left).toBeCloseTo(60, 0);
    expect(dragged.top - large.top).toBeCloseTo(30, 0);

    await pinch(page, x, y, 60, 120);
    const pinched = await after(shown, ({ width }) => width > dragged.width * 1.8);
    expect(pinched.width / dragged.width).toBeCloseTo(2, 1);
    expect(shareAt(pinched, x)).toBeCloseTo(shareAt(dragged, x), 2);

    await page.mouse.move(x, y);
    await page.mouse.wheel(0, 300);
    const smaller = await after(shown, ({ width }) => width < pinched.width / 1.4);
    expect(shareAt(smaller, x)).toBeCloseTo(shareAt(pinched, x), 2);
  });
}

test('a drawing is dragged, which chooses nothing in it, and grows under two fingers', async ({ folvex: page }) => {
  await go(page, 'Gather');
  await page
    .getByRole('link', { name: /ground-floor\.dxf/ })
    .first()
    .click();
  const canvas = page.locator('fx-drawing-canvas');
  await expect(canvas).toHaveAttribute('data-painted', /[1-9]/);
  const { x, y, width, height } = (await canvas.boundingBox())!;
  const shape = (): Promise<string | null> => canvas.locator('canvas').evaluate((element) => element.style.transform);
  const turn = async (): Promise<number> => Number(await canvas.getAttribute('data-painted'));
  const before = await turn();
  await page.mouse.move(x + width / 2, y + height / 2);
  await page.mouse.down();
  await page.mouse.move(x + width / 2 + 80, y + height / 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(turn).toBeGreaterThan(before);
  const dragged = await turn();
  await pinch(page, x + width / 2, y + height / 2, 60, 180);
  await expect.poll(turn).toBeGreaterThan(dragged);
  // The last picture is the one asked for: it is shown as it is, not scaled.
  await expect.poll(shape).toMatch(/scale\(1\)/);
  // A drag is not a click. The worker answers in order: had it been asked what was clicked, the answer would be here.
  await expect(page.getByText('Handle', { exact: true })).toHaveCount(0);
  await expect(page).not.toHaveURL(/entity=/);
});
