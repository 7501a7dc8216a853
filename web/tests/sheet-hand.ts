/** What a hand does on the sheet in tests: places in shares of the crop, drags, keys, sliders, and the light that is seen. */
import type { Page } from 'puppeteer-core';
import type { BenchPage } from './bench-page.ts';

export interface SheetHand {
  /** A place in shares of the crop, on the screen. */
  at(x: number, y: number): Promise<[number, number]>;
  /** Along places in shares of the crop. */
  drag(...way: [number, number][]): Promise<void>;
  /** A key that is heard by the bench, not by a field. */
  key(name: string): Promise<void>;
  set(label: string, value: number): Promise<void>;
  /** Luminance of the sheet about a place in shares of the crop, 0..255. */
  lightAt(x: number, y: number): Promise<number>;
}

export function sheetHand(page: Page, bench: BenchPage): SheetHand {
  /** A place in shares of the crop, on the screen. */
  async function at(x: number, y: number): Promise<[number, number]> {
    const { left, top, width, height } = await bench.crop();
    const box = await page.$eval('[aria-label=Picture]', (e) => {
      const { left, top } = e.getBoundingClientRect();
      return { left, top };
    });
    return [box.left + left + x * width, box.top + top + y * height];
  }
  async function drag(...way: [number, number][]): Promise<void> {
    await page.mouse.move(...(await at(...way[0])));
    await page.mouse.down();
    for (const place of way.slice(1)) await page.mouse.move(...(await at(...place)), { steps: 8 });
    await page.mouse.up();
  }
  const key = async (name: string): Promise<void> => {
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press(name as 'a');
  };
  async function set(label: string, value: number): Promise<void> {
    const input = `input[type=range][aria-label^="${label}"]`;
    await page.waitForSelector(input);
    await page.$eval(
      input,
      (slider, value) => {
        (slider as HTMLInputElement).value = String(value);
        slider.dispatchEvent(new Event('input', { bubbles: true }));
        slider.dispatchEvent(new Event('change', { bubbles: true }));
      },
      value
    );
  }
  /** Luminance of the sheet about a place in shares of the crop, 0..255. */
  const lightAt = (x: number, y: number): Promise<number> =>
    page.$eval(
      '[data-testid=picture]',
      (canvas, x, y) => {
        const of = canvas as HTMLCanvasElement;
        const crop = JSON.parse(of.dataset.crop!) as {
          left: number;
          top: number;
          width: number;
          height: number;
        };
        const [sx, sy] = [of.width / of.clientWidth, of.height / of.clientHeight];
        const left = Number.parseFloat(of.style.left);
        const top = Number.parseFloat(of.style.top);
        const px = Math.round((crop.left + x * crop.width - left) * sx);
        const py = Math.round((crop.top + y * crop.height - top) * sy);
        const [r, g, b] = of.getContext('2d')!.getImageData(px, py, 1, 1).data;
        return (r + g + b) / 3;
      },
      x,
      y
    );
  return { at, drag, key, set, lightAt };
}
