/** An edit as a hand does it, by mouse and keys alone, with its acts counted: presses, drags, keys, and numbers typed. */
import { converter } from 'culori';
import sharp from 'sharp';
import { expect, it } from 'vitest';
import { benchPage } from '../bench-page.ts';
import { latestPicture } from '../export-picture.ts';
import { jobWithFrames } from '../job-with-frames.ts';
import { openSharedApp } from '../shared-app.ts';
import { sheetHand } from '../sheet-hand.ts';

/** A place in shares of the crop. */
export type Place = [x: number, y: number];
/** Lightness, chroma and hue (degrees) in OKLCh, by an independent library. */
export interface Seen {
  l: number;
  c: number;
  h: number;
}
export type Picture = (at: Place, about?: number) => Seen;

/** More than this an edit never takes. */
const MOST_ACTS = 45;

const toOklch = converter('oklch');

export function degreesApart(one: number, other: number): number {
  return Math.abs(((one - other + 540) % 360) - 180);
}

/** Reads mean colours of a picture, about places in shares of it; `about` in thousandths of its width. */
async function pictureOf(bytes: Uint8Array): Promise<Picture> {
  const { data, info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true });
  return ([x, y], thousandths = 4) => {
    const about = Math.round((thousandths * info.width) / 1000);
    const [column, row] = [Math.round(x * (info.width - 1)), Math.round(y * (info.height - 1))];
    const sum = [0, 0, 0];
    let count = 0;
    for (let v = Math.max(0, row - about); v <= Math.min(info.height - 1, row + about); v++)
      for (let u = Math.max(0, column - about); u <= Math.min(info.width - 1, column + about); u++) {
        for (let c = 0; c < 3; c++) sum[c] += data[(v * info.width + u) * info.channels + c];
        count++;
      }
    const [r, g, b] = sum.map((each) => each / count / 255);
    const { l, c, h } = toOklch({ mode: 'rgb', r, g, b });
    return { l, c, h: h ?? 0 };
  };
}

/** The frame that edits are made on. */
const FRONT = 'SML_0101.dng';

async function beginEdit(words: string, name = FRONT) {
  const app = await openSharedApp();
  const { page } = app;
  const bench = benchPage(page);
  const hand = sheetHand(page, bench);
  const { ids, jobId } = await jobWithFrames(page, app.address, words, [name]);
  const id = ids[name];
  await bench.open(`${app.address}/frames/${id}`);
  await bench.settled();
  let acts = 0;
  const counted =
    <A extends unknown[], R>(act: (...given: A) => Promise<R>) =>
    async (...given: A): Promise<R> => {
      acts++;
      return act(...given);
    };

  /** States of all pictures of the frame, the newest first. */
  const states = async (): Promise<string[]> =>
    ((await (await fetch(`${app.address}/api/frames/${id}/deliveries`)).json()) as { state: string }[]).map(
      ({ state }) => state
    );
  /** What comes of asking for one more picture. */
  async function made(ask: () => Promise<unknown>): Promise<Picture> {
    const before = (await states()).length;
    await ask();
    await expect
      .poll(async () => [(await states()).length, (await states())[0]], { timeout: 90_000, interval: 200 })
      .toEqual([before + 1, 'done']);
    return pictureOf((await latestPicture(app.address, id)).bytes);
  }
  async function picture(): Promise<Picture> {
    // What was just set is drawn before it is saved: "Saved" may still be told of what was before.
    await bench.settled();
    await bench.saved();
    return made(async () => {
      const asked = await fetch(`${app.address}/api/frames/${id}/deliveries`, {
        method: 'POST',
        body: JSON.stringify({
          name: 'Look',
          format: 'png',
          sizeKind: 'long',
          width: 1000,
          sharpening: 'none'
        }),
        headers: { 'content-type': 'application/json' }
      });
      expect(asked.ok, await asked.clone().text()).toBe(true);
    });
  }

  /** Waits until what opens has come to its place, however slowly frames come. */
  async function atRest(selector: string): Promise<void> {
    const opened = (await page.waitForSelector(selector, { visible: true }))!;
    let before = '';
    await expect
      .poll(
        async () => {
          const now = JSON.stringify(await opened.boundingBox());
          const rests = now === before;
          before = now;
          return rests;
        },
        { interval: 250, timeout: 20_000 }
      )
      .toBe(true);
  }

  return {
    app,
    page,
    bench,
    hand,
    id,
    jobId,
    acts: () => acts,
    /** A key of the bench. */
    key: counted((name: string) => hand.key(name)),
    keys: counted(async (held: string, name: string) => {
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
      await page.keyboard.down(held as 'Shift');
      await page.keyboard.press(name as 'y');
      await page.keyboard.up(held as 'Shift');
    }),
    turnTo: counted((name: string) => page.locator(`[data-page=${name}]`).click()),
    press: counted((label: string) => bench.press(label)),
    pressOn: counted((selector: string) => page.locator(selector).click()),
    /** A press on the picture. */
    point: counted(async (at: Place) => page.mouse.click(...(await hand.at(...at)))),
    drag: counted((...way: Place[]) => hand.drag(...way)),
    select: counted((label: string, value: string) =>
      page.select(`select[aria-label="${label}"]`, value).then(() => undefined)
    ),
    /** A number typed into its field. */
    type: counted(async (label: string, value: number) => {
      const field = await page.waitForSelector(`input[type=text][aria-label="${label}"]:not(:disabled)`);
      await field!.click({ count: 3 });
      await page.keyboard.type(String(value));
      await page.keyboard.press('Enter');
    }),
    /** The picture as it stands, for the test alone. */
    picture,
    /** Delivered by the Export of the bench: the end of every edit. */
    async deliver(): Promise<Picture> {
      await bench.settled();
      await bench.saved();
      acts += 2;
      const delivered = await made(async () => {
        await bench.press('Export');
        await atRest('form[aria-label="Export settings"]');
        await bench.press('Export picture');
      });
      expect(acts).toBeLessThanOrEqual(MOST_ACTS);
      return delivered;
    },
    close: () => app.close()
  };
}

export type Edit = Awaited<ReturnType<typeof beginEdit>>;

/** An edit as a test: on a frame of its own, in a job by the edit's words. */
export const edits = (words: string, does: string, edit: (edit: Edit) => Promise<void>): void =>
  it(does, async () => {
    const begun = await beginEdit(words);
    try {
      await edit(begun);
    } finally {
      await begun.close();
    }
  });
