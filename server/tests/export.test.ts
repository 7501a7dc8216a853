import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { cancelExport, exportById, requestExport, validExport } from '../deliveries/exports.ts';
import { exportPath } from '../deliveries/run-export.ts';
import { addFrame } from '../frames/add-frame.ts';
import { frameById, saveRecipe } from '../frames/frame-row.ts';
import { type TestApp, bytesOf, openTestApp, until } from './test-app.ts';

let test: TestApp;
let frameId = '';

beforeAll(async () => {
  test = await openTestApp();
  const bytes = readFileSync(join(inject('photographs'), 'SML_0101.dng'));
  frameId = (await addFrame(test.app, test.jobId, 'SML_0101.dng', bytesOf(bytes), bytes.length)).id;
  await until(async () => (await frameById(test.app, frameId))?.state === 'ready');
});
afterAll(() => test.remove());

describe('exports', () => {
  it('render the recipe as it was when asked for, and keep the picture with its report', async () => {
    await saveRecipe(test.app, frameId, 0, { crop: { ratio: '1:1' } });
    const id = await requestExport(test.app, frameId, { longEdge: 500, quality: 80, ppi: 240 });
    await saveRecipe(test.app, frameId, 1, { crop: { ratio: '16:9' } });
    const row = await until(async () => {
      const found = await exportById(test.app, id);
      return found?.state === 'done' ? found : null;
    });
    const picture = readFileSync(exportPath(test.app.data, id));
    expect(picture.length).toBe(row.bytes);
    expect(await sharp(picture).metadata()).toMatchObject({ width: 500, height: 500, density: 240 });
    expect(row.report!.crop.ratio).toBe('1:1');
    expect(row.file).toBe('SML_0101.jpg');
    expect(row.progress).toBe(1);
  });

  it('can be cancelled, and leave no picture', async () => {
    const id = await requestExport(test.app, frameId, {});
    await until(async () => (await exportById(test.app, id))?.state === 'running');
    await cancelExport(test.app, id);
    await until(async () => !test.app.running.has(id));
    expect((await exportById(test.app, id))!.state).toBe('cancelled');
    expect(existsSync(exportPath(test.app.data, id))).toBe(false);
  });

  it('say why they failed', async () => {
    const current = (await frameById(test.app, frameId))!;
    await saveRecipe(test.app, frameId, current.version, { lens: { profile: 'gone' } });
    const id = await requestExport(test.app, frameId, {});
    const row = await until(async () => {
      const found = await exportById(test.app, id);
      return found?.state === 'failed' ? found : null;
    });
    expect(row.error).toMatch(/not in the catalogue/);
  });

  it('refuse settings out of range', () => {
    expect(() => validExport({ quality: 0 })).toThrow(/quality must be >= 1/);
    expect(() => validExport({ sharpen: true })).toThrow(/unknown entry/);
    expect(validExport({ longEdge: null })).toEqual({ longEdge: null });
  });
});
