/** The page as a user works it, for tests of the interface. */
import type { Page } from 'puppeteer-core';
import type { Point } from '../../core/math/frame-geometry.ts';
import type { CameraSetup } from '../../scenes/camera/capture.ts';
import { setupLens } from '../../scenes/camera/capture.ts';
import { type Angles, rotationFromAngles } from '../../core/math/rotation.ts';
import { NO_DISTORTION } from '../../core/optics/lens-model.ts';
import { sensorToUpright } from '../../core/picture/geometry/projection.ts';

export function benchPage(page: Page) {
  const text = (selector: string): Promise<string> =>
    page.$eval(selector, (e) => e.textContent!.trim().replace(/\s+/g, ' '));
  const picture = '[data-testid=picture]';
  return {
    text,
    reading: (name: string): Promise<string> => text(`[data-testid=reading-${name}]`),

    /** Drawn, sharp, and not drawn again for a while from now on. */
    async settled(): Promise<void> {
      await page.evaluate(() => ((window as unknown as { since: number }).since = performance.now()));
      await page.waitForFunction(
        () => {
          const { dataset } = document.querySelector<HTMLCanvasElement>('[data-testid=picture]')!;
          const w = window as unknown as { last?: string; since?: number };
          if (w.last !== dataset.drawn || dataset.sharp !== 'true')
            [w.last, w.since] = [dataset.drawn, performance.now()];
          return dataset.sharp === 'true' && performance.now() - w.since! > 500;
        },
        { timeout: 60000 }
      );
    },

    async open(url: string): Promise<void> {
      await page.goto(url, { waitUntil: 'networkidle2' });
      await page.waitForSelector(`${picture}[data-drawn]`, { timeout: 60000 });
    },

    async press(label: string): Promise<void> {
      // A locator waits until the button has come to rest.
      await page.locator(`::-p-xpath(//button[normalize-space()="${label}"])`).click();
    },

    async saved(): Promise<void> {
      await page.waitForFunction(
        () => document.querySelector('[data-testid=save-state]')?.textContent === 'Saved'
      );
    },

    /** The crop on the sheet, in its pixels. */
    crop: async (): Promise<{ left: number; top: number; width: number; height: number }> =>
      JSON.parse(await page.$eval(picture, (e) => (e as HTMLElement).dataset.crop!)) as never,

    /** Where a sensor position lies on the screen, from the sheet's own rulers; before any turn, or turned by angles. */
    async screenOf(
      sensor: Point,
      setup: CameraSetup,
      corrected = true,
      angles: Angles = { roll: 0, pitch: 0, yaw: 0 }
    ): Promise<Point> {
      const { focal, model } = setupLens(setup);
      const rotation = rotationFromAngles(angles);
      const projection = { size: setup.size, focal, model: corrected ? model : NO_DISTORTION, rotation };
      const [x, y] = sensorToUpright(sensor, projection)!;
      const box = await page.$eval(picture, (e) => {
        const { left, top } = e.getBoundingClientRect();
        return { left, top };
      });
      const view = JSON.parse(await page.$eval(picture, (e) => (e as HTMLElement).dataset.view!)) as {
        left: number;
        top: number;
        pixel: number;
      };
      return [box.left + (x - view.left) / view.pixel, box.top + (y - view.top) / view.pixel];
    }
  };
}

export type BenchPage = ReturnType<typeof benchPage>;
