/**
 * npm run bench:set: a job of 500 frames (small finished pictures) in the browser: from asking for its page until its
 * first pictures are there and a press acts, and how long scrolling through all of it keeps the page busy.
 */
import sharp from 'sharp';
import { openBrowser } from '../tools/open-browser.ts';
import { pause, say, startOwnApp } from './running-app.ts';

const COUNT = Number(process.argv[2] ?? 500);
const app = await startOwnApp(4196);
try {
  const { id: job } = await app.post<{ id: string }>('/api/jobs', JSON.stringify({ name: 'A large set' }));
  let next = 0;
  const send = async (): Promise<void> => {
    while (next < COUNT) {
      const i = next++;
      const background = { r: i % 256, g: (i * 7) % 256, b: 128 };
      const bytes = await sharp({ create: { width: 480, height: 320, channels: 3, background } })
        .jpeg()
        .toBuffer();
      const body = Buffer.concat([bytes, Buffer.from([i & 255, i >> 8])]);
      await app.post(
        `/api/jobs/${job}/frames?name=S_${String(i).padStart(4, '0')}.jpg`,
        body,
        'application/octet-stream'
      );
    }
  };
  await Promise.all([send(), send()]);
  for (let left = COUNT; left > 0;) {
    const jobs = await app.get<{ waiting: number }[]>('/api/jobs');
    left = jobs[0].waiting;
    await pause(1000);
  }
  const browser = await openBrowser();
  const page = await browser.newPage();
  for (let i = 0; i < 3; i++) {
    await page.goto('about:blank');
    const started = performance.now();
    await page.goto(`${app.address}/jobs/${job}`, { waitUntil: 'domcontentloaded' });
    await page.waitForFunction(() =>
      [...document.querySelectorAll<HTMLImageElement>('.frame img')]
        .slice(0, 8)
        .every((image) => image.complete)
    );
    const pictures = performance.now() - started;
    // Usable: a press on a box selects a frame.
    await page.waitForFunction(() => {
      document.querySelector<HTMLInputElement>('.frame input[type=checkbox]')!.click();
      return document.querySelector('main')?.textContent?.includes('1 selected');
    });
    say(
      `pictures after ${pictures.toFixed(0)} ms, usable after ${(performance.now() - started).toFixed(0)} ms`
    );
  }
  say(`frames in the page: ${(await page.$$('.frame')).length} of ${COUNT}`);
  const frames = await page.evaluate(async () => {
    const times: number[] = [];
    let last = performance.now();
    for (let y = 0; y < document.body.scrollHeight; y += 240) {
      window.scrollTo(0, y);
      await new Promise(requestAnimationFrame);
      const now = performance.now();
      times.push(now - last);
      last = now;
    }
    return times.sort((a, b) => a - b);
  });
  const at = (share: number): string => frames[Math.floor((frames.length - 1) * share)].toFixed(1);
  say(
    `scrolled through in ${frames.length} steps: ${at(0.5)} ms each, p95 ${at(0.95)} ms, longest ${at(1)} ms`
  );
  await browser.close();
} finally {
  await app.end();
}
