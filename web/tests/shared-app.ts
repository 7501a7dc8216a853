/** A page of the app that tests share, with cookies and storage of its own. */
import puppeteer, { type BrowserContext, type Page } from 'puppeteer-core';
import { inject } from 'vitest';

export interface SharedApp {
  address: string;
  context: BrowserContext;
  page: Page;
  close(): Promise<void>;
}

export async function openSharedApp(): Promise<SharedApp> {
  const browser = await puppeteer.connect({
    browserWSEndpoint: inject('browserEndpoint'),
    defaultViewport: { width: 1280, height: 800 }
  });
  const context = await browser.createBrowserContext();
  const page = await context.newPage();
  return {
    address: inject('address'),
    context,
    page,
    async close() {
      await context.close();
      await browser.disconnect();
    }
  };
}
