import type { Page } from 'puppeteer-core';

/**
 * Gives files to the chooser that `open` opens. Chromium may take a key before it takes the order to hand the
 * chooser to us, and then opens its own, which nobody answers: what it evaluates in between comes after that order.
 */
export async function chooseFiles(page: Page, open: () => Promise<unknown>, paths: string[]): Promise<void> {
  const chosen = page.waitForFileChooser();
  await page.evaluate(() => 0);
  const [chooser] = await Promise.all([chosen, open()]);
  await chooser.accept(paths);
}
