/**
 * Once for all tests: the app is built, and one app and one browser run for those that leave others' data alone. Tests that
 * stop the app, or change what all jobs share, start their own.
 */
import type { TestProject } from 'vitest/node';
import { buildApp } from '../../server/start/build-app.ts';
import { openBrowser } from '../../tools/open-browser.ts';
import { newDataFolder, startApp } from './start-app.ts';

declare module 'vitest' {
  interface ProvidedContext {
    address: string;
    browserEndpoint: string;
    /** Data folder of the app that is shared. */
    sharedData: string;
  }
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  buildApp(() => {});
  const data = newDataFolder();
  const [app, browser] = await Promise.all([startApp(data), openBrowser()]);
  project.provide('sharedData', data);
  project.provide('address', app.address);
  project.provide('browserEndpoint', browser.wsEndpoint());
  return async () => {
    await browser.close();
    await app.interrupt();
  };
}
